/** Open formats in and out. Start at {@link app.schublade.core.format.MimeReader}. */
@NullMarked
package app.schublade.core.format;

import org.jspecify.annotations.NullMarked;
