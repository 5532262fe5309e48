/** Pictures of files that somebody has sent, made where they can do no harm. */
@NullMarked
package app.schublade.preview;

import org.jspecify.annotations.NullMarked;
