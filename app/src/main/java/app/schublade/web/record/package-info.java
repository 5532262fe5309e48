/** The filing record: looked through, and put right. Start at {@link RecordController}. */
@NullMarked
package app.schublade.web.record;

import org.jspecify.annotations.NullMarked;
