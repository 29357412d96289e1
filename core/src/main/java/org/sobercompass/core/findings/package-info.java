/**
 * What a finding is, what is judged and by which rules, who answers for it, and what finders share.
 *
 * <p>Each family of finders is a package below this one, and knows no other; {@code core.audit}
 * runs them all. One cause with two hundred effects is one finding. In: an assessment, and for a
 * preview the focus that its changes may concern. Out: findings that carry what they are about as
 * data ({@code core.findings.details}); that and the routes that show them may be worked out when
 * they are asked for. The words are made in {@code report.findings}.
 */
@NullMarked
package org.sobercompass.core.findings;

import org.jspecify.annotations.NullMarked;
