/** Long and repeated work; begin at {@link app.schublade.work.Background}. No thread is made elsewhere. */
@NullMarked
package app.schublade.work;

import org.jspecify.annotations.NullMarked;
