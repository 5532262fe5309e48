/** What the user does not want to see, or not yet: mail between two looks, blocked senders, muted conversations, mailing lists that were left. */
@NullMarked
package app.schublade.store.noise;

import org.jspecify.annotations.NullMarked;
