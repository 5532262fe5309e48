/** The rules page: rules in their order, one to be edited, its trial run. Start at {@link RulesController}. */
@NullMarked
package app.schublade.web.rules;

import org.jspecify.annotations.NullMarked;
