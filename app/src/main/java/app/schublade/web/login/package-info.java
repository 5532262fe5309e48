/** Who may come in, and what their browsers may do. Start at {@link SecurityConfiguration}. */
@NullMarked
package app.schublade.web.login;

import org.jspecify.annotations.NullMarked;
