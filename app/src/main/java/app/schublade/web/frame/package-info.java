/** What all pages share: who is there, the cabinet, the chips of the accounts. Start at {@link Frame}. */
@NullMarked
package app.schublade.web.frame;

import org.jspecify.annotations.NullMarked;
