/** Work that takes long, or that one of several processes does. */
@NullMarked
package app.schublade.store.work;

import org.jspecify.annotations.NullMarked;
