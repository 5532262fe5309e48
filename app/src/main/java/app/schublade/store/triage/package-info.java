/** What is open: what the user asked and waits for. */
@NullMarked
package app.schublade.store.triage;

import org.jspecify.annotations.NullMarked;
