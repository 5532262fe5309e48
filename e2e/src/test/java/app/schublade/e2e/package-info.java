/** Journeys in the browser, in the user's own verbs. Start at {@link app.schublade.e2e.FilingJourneyTest}. */
@NullMarked
package app.schublade.e2e;

import org.jspecify.annotations.NullMarked;
