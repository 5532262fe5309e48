/** What the user's filing teaches, and what was learnt from it. */
@NullMarked
package app.schublade.store.learn;

import org.jspecify.annotations.NullMarked;
