/** The one way in which messages change. Start at {@link app.schublade.store.filing.FilingStore}. */
@NullMarked
package app.schublade.store.filing;

import org.jspecify.annotations.NullMarked;
