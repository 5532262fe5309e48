package app.schublade.core.learn;

import org.jspecify.annotations.Nullable;

/**
 * A place where a message is likely to belong.
 *
 * @param place the number of the folder or label
 * @param share how likely it is, from 0 to 1, beside all others and beside none of them
 * @param because what of the message speaks for it most; null if nothing does
 * @param there how many messages with that lie in the place
 * @param all how many messages with that were filed
 */
public record Likely(long place, double share, @Nullable Trace because, int there, int all) {}
