/** Where a message is likely to be filed: learnt from where the user filed others, and said with its reason. */
@NullMarked
package app.schublade.core.learn;

import org.jspecify.annotations.NullMarked;
