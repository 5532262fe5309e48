/** The web application. Start at {@link app.schublade.SchubladeApplication}. */
@NullMarked
package app.schublade;

import org.jspecify.annotations.NullMarked;
