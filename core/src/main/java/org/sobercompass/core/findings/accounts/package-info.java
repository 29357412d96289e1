/** Findings about accounts and where they come from: dormant, powerful, services, within reach. */
@NullMarked
package org.sobercompass.core.findings.accounts;

import org.jspecify.annotations.NullMarked;
