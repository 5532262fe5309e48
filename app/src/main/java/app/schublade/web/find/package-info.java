/** What is offered while somebody types into the find box, and searches that are kept. */
@NullMarked
package app.schublade.web.find;

import org.jspecify.annotations.NullMarked;
