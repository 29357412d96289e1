/**
 * Findings and expectations for other people's pipelines: SARIF 2.1.0 and JUnit XML.
 *
 * <p>In: findings and outcomes. Out: text of an open format, the same for the same input.
 */
@NullMarked
package org.sobercompass.report.pipeline;

import org.jspecify.annotations.NullMarked;
