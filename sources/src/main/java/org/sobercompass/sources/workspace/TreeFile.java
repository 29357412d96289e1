package org.sobercompass.sources.workspace;

import java.nio.file.Path;

/**
 * Where the objects of a directory with their lists can be read.
 *
 * @param directory the name of the directory
 * @param path its entries (LDIF)
 * @param shown how the user knows that place
 */
public record TreeFile(String directory, Path path, String shown) {}
