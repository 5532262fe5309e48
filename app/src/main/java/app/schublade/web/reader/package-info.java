/** The reading sheet: one message, safely shown. Start at {@link SheetMaker}. */
@NullMarked
package app.schublade.web.reader;

import org.jspecify.annotations.NullMarked;
