/** Which messages: {@link app.schublade.core.query.Query}, with one meaning as a sentence, as a predicate and, in the store, as SQL. */
@NullMarked
package app.schublade.core.query;

import org.jspecify.annotations.NullMarked;
