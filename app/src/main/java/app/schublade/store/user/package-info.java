/** Users, their sessions, the people they know, and how they like their lists. */
@NullMarked
package app.schublade.store.user;

import org.jspecify.annotations.NullMarked;
