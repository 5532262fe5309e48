/** Key persons and groups of people. Start at {@link PeopleController}. */
@NullMarked
package app.schublade.web.people;

import org.jspecify.annotations.NullMarked;
