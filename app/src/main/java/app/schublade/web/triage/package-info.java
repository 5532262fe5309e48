/** Pages of what is open. */
@NullMarked
package app.schublade.web.triage;

import org.jspecify.annotations.NullMarked;
