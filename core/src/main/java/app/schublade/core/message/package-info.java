/** What is known of a message: who wrote it, to whom, about what. Start at {@link app.schublade.core.message.Message}. */
@NullMarked
package app.schublade.core.message;

import org.jspecify.annotations.NullMarked;
