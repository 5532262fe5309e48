/** When things come: {@link app.schublade.core.triage.LookHours}. */
@NullMarked
package app.schublade.core.triage;

import org.jspecify.annotations.NullMarked;
