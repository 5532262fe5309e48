/** The demo world as seen by the application: a user and four accounts. Start at {@code DemoSetup}. */
@NullMarked
package app.schublade.demo;

import org.jspecify.annotations.NullMarked;
