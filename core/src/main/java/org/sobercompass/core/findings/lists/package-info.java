/** Findings about entries of lists and about delegated administration. */
@NullMarked
package org.sobercompass.core.findings.lists;

import org.jspecify.annotations.NullMarked;
