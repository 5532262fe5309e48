/** Messages as they are listed, read and seen by rules. */
@NullMarked
package app.schublade.store.message;

import org.jspecify.annotations.NullMarked;
