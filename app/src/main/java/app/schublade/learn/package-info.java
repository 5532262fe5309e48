/** Where a message is likely to be filed, for each user: learnt from what he or she filed. */
@NullMarked
package app.schublade.learn;

import org.jspecify.annotations.NullMarked;
