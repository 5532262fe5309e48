/** Accounts, their aliases and mailboxes, and what happened to them. */
@NullMarked
package app.schublade.store.account;

import org.jspecify.annotations.NullMarked;
