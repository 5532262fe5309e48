package app.schublade.web.frame;

import org.jspecify.annotations.Nullable;

/**
 * Where the user stands while something is done, so that the cabinet is shown as it was.
 *
 * @param here the address of the place that is shown
 * @param account the code of the account that the view is narrowed to, or null
 */
public record ReturnTo(@Nullable String here, @Nullable String account) {}
