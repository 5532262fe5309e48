/** Keeps the accounts and their mail servers in step. Start at {@link app.schublade.sync.AccountWorker}. */
@NullMarked
package app.schublade.sync;

import org.jspecify.annotations.NullMarked;
