/** Findings about assignments and the groups that they go to: redundant, wide, over, unused. */
@NullMarked
package org.sobercompass.core.findings.grants;

import org.jspecify.annotations.NullMarked;
