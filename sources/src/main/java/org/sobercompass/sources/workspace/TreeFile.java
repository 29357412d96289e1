package org.sobercompass.sources.workspace;

import java.nio.file.Path;
import java.util.List;

/**
 * Where the objects of a directory with their lists can be read.
 *
 * @param directory the name of the directory
 * @param path its entries (LDIF)
 * @param shown how the user knows that place
 * @param names further files with classes, attributes and rights
 * @param implicitEverywhere whether implicit trustees count as members of every group
 */
public record TreeFile(
    String directory, Path path, String shown, List<Path> names, boolean implicitEverywhere) {}
