/** Where things are put: folders, labels, categories and trays, and how the desk is liked. Start at {@link FolderController}. */
@NullMarked
package app.schublade.web.places;

import org.jspecify.annotations.NullMarked;
