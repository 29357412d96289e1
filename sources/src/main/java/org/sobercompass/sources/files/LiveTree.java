package org.sobercompass.sources.files;

import java.io.BufferedWriter;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.FileVisitResult;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.nio.file.SimpleFileVisitor;
import java.nio.file.StandardCopyOption;
import java.nio.file.attribute.BasicFileAttributes;
import java.util.Locale;
import java.util.Map;
import org.sobercompass.core.problem.OutsideException;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Problem;

/**
 * Collects a live tree through Java's own file API: owner, group and mode of each path, as 1003.1e
 * text with numbers. Links are not followed, and counted. Lists beyond the mode are not to be had
 * this way: where there are any, the group's permissions are the mask.
 */
public final class LiveTree {
  private LiveTree() {}

  /**
   * What was collected.
   *
   * @param paths how many paths
   * @param links links that were left out
   * @param unread paths that could not be read, which are told in the file too
   */
  public record Collected(int paths, int links, int unread) {}

  /**
   * Writes the folders above a folder, itself, and all below it; the file is there whole or not at
   * all.
   */
  public static Collected collect(Path folder, Path out) {
    Path beside = out.resolveSibling(out.getFileName() + ".part");
    Path root = folder.toAbsolutePath().normalize();
    try (BufferedWriter writer = Files.newBufferedWriter(beside, StandardCharsets.UTF_8)) {
      Visit visit = new Visit(writer);
      for (Path above = root.getParent(); above != null; above = above.getParent()) {
        visit.write(above);
      }
      Files.walkFileTree(root, visit);
      writer.close();
      Files.move(beside, out, StandardCopyOption.REPLACE_EXISTING);
      return new Collected(visit.paths, visit.links, visit.unread);
    } catch (IOException e) {
      throw new OutsideException(
          Problem.error(
              Place.of(folder.toString()),
              "could not be collected into " + out + ": " + e.getMessage(),
              "a folder that can be read, and one to write in"));
    }
  }

  private static final class Visit extends SimpleFileVisitor<Path> {
    private final BufferedWriter out;
    private int paths;
    private int links;
    private int unread;

    Visit(BufferedWriter out) {
      this.out = out;
    }

    @Override
    public FileVisitResult preVisitDirectory(Path folder, BasicFileAttributes attributes)
        throws IOException {
      write(folder);
      return FileVisitResult.CONTINUE;
    }

    @Override
    public FileVisitResult visitFile(Path file, BasicFileAttributes attributes) throws IOException {
      if (attributes.isSymbolicLink()) {
        links++;
      } else {
        write(file);
      }
      return FileVisitResult.CONTINUE;
    }

    @Override
    public FileVisitResult visitFileFailed(Path file, IOException e) {
      unread++;
      return FileVisitResult.CONTINUE;
    }

    void write(Path path) throws IOException {
      Map<String, Object> found =
          Files.readAttributes(path, "unix:uid,gid,mode", LinkOption.NOFOLLOW_LINKS);
      int mode = (Integer) found.getOrDefault("mode", 0);
      out.write("# file: " + escaped(path) + "\n");
      out.write("# owner: " + found.get("uid") + "\n# group: " + found.get("gid") + "\n");
      if ((mode & 0xe00) != 0) {
        out.write(
            "# flags: "
                + ((mode & 0x800) != 0 ? "s" : "-")
                + ((mode & 0x400) != 0 ? "s" : "-")
                + ((mode & 0x200) != 0 ? "t" : "-")
                + "\n");
      }
      if (Files.isDirectory(path, LinkOption.NOFOLLOW_LINKS)) {
        out.write("# folder\n");
      }
      out.write("user::" + may(mode >> 6) + "\ngroup::" + may(mode >> 3));
      out.write("\nother::" + may(mode) + "\n\n");
      paths++;
    }

    private static String may(int bits) {
      return ((bits & 4) != 0 ? "r" : "-")
          + ((bits & 2) != 0 ? "w" : "-")
          + ((bits & 1) != 0 ? "x" : "-");
    }

    /** As getfacl writes names: a backslash and what ends a line stand as octal. */
    private static String escaped(Path path) {
      StringBuilder out = new StringBuilder();
      for (char c : path.toString().toCharArray()) {
        if (c < ' ' || c == '\\' || c == 0x7f) {
          out.append(String.format(Locale.ROOT, "\\%03o", (int) c));
        } else {
          out.append(c);
        }
      }
      return out.toString();
    }
  }
}
