/** The demo world as seen by the application: a user and four accounts. Start at {@link app.schublade.demo.DemoSetup}. */
@NullMarked
package app.schublade.demo;

import org.jspecify.annotations.NullMarked;
