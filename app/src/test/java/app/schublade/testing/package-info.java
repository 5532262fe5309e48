/** What tests of the application share. Start at {@link app.schublade.testing.Office}. */
@NullMarked
package app.schublade.testing;

import org.jspecify.annotations.NullMarked;
