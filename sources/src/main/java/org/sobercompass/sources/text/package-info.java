/**
 * Text formats as small trees and tables with places.
 *
 * <p>In: YAML and CSV (RFC 4180) files, decoded as UTF-8, with limits on size and depth. Out: nodes
 * and rows that know their line and column. Anchors and aliases are refused.
 */
@NullMarked
package org.sobercompass.sources.text;

import org.jspecify.annotations.NullMarked;
