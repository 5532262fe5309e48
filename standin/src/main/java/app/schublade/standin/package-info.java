/** Simulated mail hosts and the demo world. Start at {@link app.schublade.standin.Standin}. */
@NullMarked
package app.schublade.standin;

import org.jspecify.annotations.NullMarked;
