/**
 * The command {@code sober}: parse, call, print, exit code.
 *
 * <p>In: what was typed. Out: what the report says, on standard output; progress and problems on
 * standard error; an exit code. What cannot be printed ends the command. Decides nothing of the
 * domain.
 */
@NullMarked
package org.sobercompass.cli;

import org.jspecify.annotations.NullMarked;
