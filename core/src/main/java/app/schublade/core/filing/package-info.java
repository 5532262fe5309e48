/** Decides where a message goes and says why. Start at {@link app.schublade.core.filing.RuleBook}. */
@NullMarked
package app.schublade.core.filing;

import org.jspecify.annotations.NullMarked;
