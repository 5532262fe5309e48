/**
 * What is kept in PostgreSQL. Start at {@link app.schublade.store.FilingStore}, the one way in which messages change.
 */
@NullMarked
package app.schublade.store;

import org.jspecify.annotations.NullMarked;
