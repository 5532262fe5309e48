/** Pages and fragments. Start at {@link app.schublade.web.DeskController}. */
@NullMarked
package app.schublade.web;

import org.jspecify.annotations.NullMarked;
