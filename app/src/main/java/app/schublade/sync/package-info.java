/**
 * Keeps Schublade and the mail servers in agreement. Start at {@link app.schublade.sync.Synchroniser}; one
 * {@link app.schublade.sync.AccountWorker} serves each account.
 */
@NullMarked
package app.schublade.sync;

import org.jspecify.annotations.NullMarked;
