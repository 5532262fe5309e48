/** Finds the mail servers of an address. Start at {@link app.schublade.mail.discovery.Discovery}. */
@NullMarked
package app.schublade.mail.discovery;

import org.jspecify.annotations.NullMarked;
