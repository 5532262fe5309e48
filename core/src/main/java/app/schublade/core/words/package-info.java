/** What words are: folding, the borders between them, scripts without blanks. Rules, search and scripts ask here. */
@NullMarked
package app.schublade.core.words;

import org.jspecify.annotations.NullMarked;
