/** Writing and answering mail. Start at {@link ComposeController}. */
@NullMarked
package app.schublade.web.compose;

import org.jspecify.annotations.NullMarked;
