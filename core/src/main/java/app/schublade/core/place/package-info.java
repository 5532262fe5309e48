/** Places for things: folders, labels, categories. Start at {@link app.schublade.core.place.FolderPath}. */
@NullMarked
package app.schublade.core.place;

import org.jspecify.annotations.NullMarked;
