/**
 * Writes rules as Sieve scripts (RFC 5228) and reads them from such. Start at {@link app.schublade.core.sieve.SieveWriter}
 * and {@link app.schublade.core.sieve.SieveReader}.
 */
@NullMarked
package app.schublade.core.sieve;

import org.jspecify.annotations.NullMarked;
