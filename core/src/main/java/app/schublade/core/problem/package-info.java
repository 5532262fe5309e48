/** What a user is told: {@link app.schublade.core.problem.InputProblem}. */
@NullMarked
package app.schublade.core.problem;

import org.jspecify.annotations.NullMarked;
