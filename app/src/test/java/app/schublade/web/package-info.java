/** The pages, asked for as browsers do. */
@NullMarked
package app.schublade.web;

import org.jspecify.annotations.NullMarked;
