/** The one list of what each user does, and the rows that an act keeps for its undo. */
@NullMarked
package app.schublade.store.act;

import org.jspecify.annotations.NullMarked;
