/** The folders, labels, categories and trays that there are. */
@NullMarked
package app.schublade.store.place;

import org.jspecify.annotations.NullMarked;
