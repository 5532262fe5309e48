/** Rules, their order and versions, and what stands of them on servers. */
@NullMarked
package app.schublade.store.rule;

import org.jspecify.annotations.NullMarked;
