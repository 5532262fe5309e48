/** Figures, each beside a baseline of the same run. Start at {@link app.schublade.bench.Bench}. */
@NullMarked
package app.schublade.bench;

import org.jspecify.annotations.NullMarked;
