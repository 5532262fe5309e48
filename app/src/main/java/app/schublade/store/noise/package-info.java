/** What the user does not want to see: blocked senders, muted conversations, mailing lists that were left. */
@NullMarked
package app.schublade.store.noise;

import org.jspecify.annotations.NullMarked;
