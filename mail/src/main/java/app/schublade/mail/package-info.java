/** Speaks to mail servers. Start at {@link app.schublade.mail.ImapConnection}. */
@NullMarked
package app.schublade.mail;

import org.jspecify.annotations.NullMarked;
