package org.sobercompass.sources.workspace;

import org.sobercompass.sources.SourceKind;

/**
 * Where the entries of a directory can be read again.
 *
 * @param name the name of the directory
 * @param kind its kind
 * @param entries the file
 */
public record DirectoryFile(String name, SourceKind kind, SourceKind.Entries entries) {}
