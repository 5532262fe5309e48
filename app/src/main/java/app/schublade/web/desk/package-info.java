/** The desk: lists of messages and what can be done with them. Start at {@link DeskController}. */
@NullMarked
package app.schublade.web.desk;

import org.jspecify.annotations.NullMarked;
