/** Everything that is kept, in PostgreSQL; the only place with SQL. Start at {@link app.schublade.store.FilingStore}. */
@NullMarked
package app.schublade.store;

import org.jspecify.annotations.NullMarked;
