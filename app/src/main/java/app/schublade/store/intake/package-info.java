/** The way in: new messages of servers, and what rules do to them as they come. */
@NullMarked
package app.schublade.store.intake;

import org.jspecify.annotations.NullMarked;
