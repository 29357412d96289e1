package org.sobercompass.sources.workspace;

import org.sobercompass.sources.SourceKind;

/**
 * Where the entries of a directory can be read again.
 *
 * @param name the name of the directory
 * @param kind its kind
 * @param entries the file
 * @param isLive whether the file is the part of a survey of a server that can be asked again
 */
public record DirectoryFile(
    String name, SourceKind kind, SourceKind.Entries entries, boolean isLive) {}
