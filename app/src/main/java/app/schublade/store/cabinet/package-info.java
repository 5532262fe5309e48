/** How the user changes the cabinet: makes, names, moves and takes away its places. */
@NullMarked
package app.schublade.store.cabinet;

import org.jspecify.annotations.NullMarked;
