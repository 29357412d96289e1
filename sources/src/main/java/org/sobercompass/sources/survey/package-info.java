/**
 * Surveys: dated inventories of all sources, each in one file of open formats.
 *
 * <p>In: the parts read from directories and files, and the mapping they were taken with. Out: one
 * archive (a manifest in JSON, LDIF, the workspace's own files), written whole or not at all; and
 * back again, checked. Promises: damage shows; it can be read back; an unpacked copy is held
 * against its archive; a part can be collected by other hands and joined; what an archive claims is
 * bounded before it is unpacked.
 */
@NullMarked
package org.sobercompass.sources.survey;

import org.jspecify.annotations.NullMarked;
