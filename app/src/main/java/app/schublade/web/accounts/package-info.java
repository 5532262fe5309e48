/** The accounts page. Start at {@link AccountsController}. */
@NullMarked
package app.schublade.web.accounts;

import org.jspecify.annotations.NullMarked;
