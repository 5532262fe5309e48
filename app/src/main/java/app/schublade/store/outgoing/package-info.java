/** Messages that are being written and sent. */
@NullMarked
package app.schublade.store.outgoing;

import org.jspecify.annotations.NullMarked;
