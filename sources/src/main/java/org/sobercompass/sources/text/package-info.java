/**
 * Text formats as small trees and tables with places.
 *
 * <p>In: YAML and CSV (RFC 4180) files, and lines of any text, decoded as UTF-8, with limits on
 * size and depth; folders, devices and pipes are refused. Out: nodes, rows and lines that know
 * where they stand; tables with rows put in, changed and taken out, and YAML with values set and
 * items put in and taken out, all else byte for byte. Anchors and aliases are refused.
 */
@NullMarked
package org.sobercompass.sources.text;

import org.jspecify.annotations.NullMarked;
