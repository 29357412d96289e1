/**
 * Directory entries in LDIF (RFC 2849): exports, and what a survey read live.
 *
 * <p>In: a file as real servers write it, a preset for the kind of directory. Out: subjects and
 * references in a facts builder, streamed. Values that name local files are refused before the
 * library sees them.
 */
@NullMarked
package org.sobercompass.sources.directory;

import org.jspecify.annotations.NullMarked;
