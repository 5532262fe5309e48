/** What every other store stands on: transactions and their locks, bulk rows, secrets, the database itself. */
@NullMarked
package app.schublade.store.base;

import org.jspecify.annotations.NullMarked;
