/** What finds messages by their words, and what is kept of searches. */
@NullMarked
package app.schublade.store.find;

import org.jspecify.annotations.NullMarked;
