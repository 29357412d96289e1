package org.sobercompass.sources.files;

import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.FileVisitResult;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.nio.file.SimpleFileVisitor;
import java.nio.file.attribute.BasicFileAttributes;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import org.sobercompass.core.problem.OutsideException;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.sources.disk.Ending;
import org.sobercompass.sources.disk.OwnFiles;

/**
 * Collects a live tree: the lists by the system's own {@code getfacl}, where it is there, else the
 * mode of each path through Java's file API, marked so that what a list behind it could change
 * stays undecided. Links are not followed; they are counted and named in the file.
 */
public final class LiveTree {
  /** So many paths are handed to one run of the tool. */
  private static final int BATCH = 500;

  private LiveTree() {}

  /**
   * What was collected.
   *
   * @param paths how many paths
   * @param links links that were not followed
   * @param unread paths that could not be read, which are told in the file too
   * @param lists whether lists were read; else modes only
   */
  public record Collected(int paths, int links, int unread, boolean lists) {}

  /** Where the system's own tool for lists is, if it has one. */
  public static Optional<Path> tool() {
    for (String folder : List.of("/usr/bin", "/bin", "/usr/local/bin")) {
      Path tool = Path.of(folder, "getfacl");
      if (Files.isExecutable(tool)) {
        return Optional.of(tool);
      }
    }
    return Optional.empty();
  }

  /**
   * Writes the folders above a folder, itself, and all below it; the file is there whole or not at
   * all.
   *
   * @param tool the tool that reads lists, as {@link #tool} finds it; empty to read modes only
   */
  public static Collected collect(Path folder, Path out, Optional<Path> tool) {
    Path root = folder.toAbsolutePath().normalize();
    if (!Files.isReadable(root)) {
      throw new OutsideException(
          Problem.error(
              Place.of(folder.toString()),
              Files.exists(root) ? "the folder cannot be read" : "there is no such folder",
              "a folder that can be read"));
    }
    List<Visit> visits = new ArrayList<>();
    OwnFiles.write(
        out,
        to -> {
          Ending counted = new Ending(to);
          Visit visit = new Visit(counted, tool);
          visits.add(visit);
          visit.write(GetfaclReader.COLLECTED + "\n\n");
          for (Path above = root.getParent(); above != null; above = above.getParent()) {
            visit.take(above);
          }
          Files.walkFileTree(root, visit);
          visit.flush();
          counted.end(Ending.Form.COMMENT);
        });
    Visit visit = visits.get(0);
    return new Collected(visit.paths, visit.links, visit.unread, tool.isPresent());
  }

  private static final class Visit extends SimpleFileVisitor<Path> {
    private final OutputStream out;
    private final Optional<Path> tool;
    private final List<Path> batch = new ArrayList<>();
    private int paths;
    private int links;
    private int unread;

    Visit(OutputStream out, Optional<Path> tool) {
      this.out = out;
      this.tool = tool;
    }

    @Override
    public FileVisitResult preVisitDirectory(Path folder, BasicFileAttributes attributes)
        throws IOException {
      take(folder);
      return FileVisitResult.CONTINUE;
    }

    @Override
    public FileVisitResult visitFile(Path file, BasicFileAttributes attributes) throws IOException {
      if (attributes.isSymbolicLink()) {
        links++;
        write("# file: " + escaped(file.toString()) + "\n" + GetfaclReader.LINK);
        write(escaped(Files.readSymbolicLink(file).toString()) + "\n\n");
      } else {
        take(file);
      }
      return FileVisitResult.CONTINUE;
    }

    /** A path that cannot be read is there all the same, with a list that is not known. */
    @Override
    public FileVisitResult visitFileFailed(Path file, IOException e) throws IOException {
      unread(file);
      return FileVisitResult.CONTINUE;
    }

    void take(Path path) throws IOException {
      paths++;
      batch.add(path);
      if (batch.size() >= BATCH) {
        flush();
      }
    }

    void flush() throws IOException {
      for (int i = 0; i < batch.size(); i++) {
        Path path = batch.get(i);
        if (tool.isEmpty()) {
          mode(path);
        }
      }
      if (tool.isPresent() && !batch.isEmpty()) {
        lists(tool.get());
      }
      batch.clear();
    }

    /** One run of the tool over the batch; its blocks come in the order asked. */
    private void lists(Path program) throws IOException {
      List<String> command =
          new ArrayList<>(List.of(program.toString(), "--absolute-names", "--numeric", "--"));
      batch.forEach(path -> command.add(path.toString()));
      Process process =
          new ProcessBuilder(command).redirectError(ProcessBuilder.Redirect.DISCARD).start();
      process.getOutputStream().close();
      byte[] said;
      try (InputStream in = process.getInputStream()) {
        said = in.readAllBytes();
      }
      String text = new String(said, StandardCharsets.ISO_8859_1);
      List<String> blocks = new ArrayList<>(List.of(text.split("\n\n")));
      blocks.removeIf(String::isBlank);
      int next = 0;
      for (Path path : batch) {
        String head = "# file: " + toolName(path) + "\n";
        if (next < blocks.size() && (blocks.get(next) + "\n").startsWith(head)) {
          block(path, blocks.get(next++));
        } else {
          unread(path);
        }
      }
    }

    private void unread(Path path) throws IOException {
      unread++;
      write("# file: " + escaped(path.toString()) + "\n" + GetfaclReader.UNREAD + "\n\n");
    }

    private void block(Path path, String block) throws IOException {
      out.write(block.strip().getBytes(StandardCharsets.ISO_8859_1));
      boolean folder = Files.isDirectory(path, LinkOption.NOFOLLOW_LINKS);
      write((folder ? "\n# folder" : "") + "\n\n");
    }

    /** A path as the tool writes it, as bytes one a character. */
    private static String toolName(Path path) {
      StringBuilder name = new StringBuilder();
      for (byte b : path.toString().getBytes(StandardCharsets.UTF_8)) {
        char c = (char) (b & 0xff);
        switch (c) {
          case '\\' -> name.append("\\\\");
          case '\n', '\r' -> name.append(String.format(Locale.ROOT, "\\%03o", (int) c));
          default -> name.append(c);
        }
      }
      return name.toString();
    }

    private void mode(Path path) throws IOException {
      Map<String, Object> found =
          Files.readAttributes(path, "unix:uid,gid,mode", LinkOption.NOFOLLOW_LINKS);
      int mode = (Integer) found.getOrDefault("mode", 0);
      write("# file: " + escaped(path.toString()) + "\n");
      write("# owner: " + found.get("uid") + "\n# group: " + found.get("gid") + "\n");
      if ((mode & 0xe00) != 0) {
        write(
            "# flags: "
                + ((mode & 0x800) != 0 ? "s" : "-")
                + ((mode & 0x400) != 0 ? "s" : "-")
                + ((mode & 0x200) != 0 ? "t" : "-")
                + "\n");
      }
      if (Files.isDirectory(path, LinkOption.NOFOLLOW_LINKS)) {
        write("# folder\n");
      }
      write(GetfaclReader.MODE_ONLY + "\n");
      write("user::" + may(mode >> 6) + "\ngroup::" + may(mode >> 3));
      write("\nother::" + may(mode) + "\n\n");
    }

    private void write(String text) throws IOException {
      out.write(text.getBytes(StandardCharsets.UTF_8));
    }

    private static String may(int bits) {
      return ((bits & 4) != 0 ? "r" : "-")
          + ((bits & 2) != 0 ? "w" : "-")
          + ((bits & 1) != 0 ? "x" : "-");
    }

    /** As getfacl writes names: a backslash and what ends a line stand as octal. */
    private static String escaped(String path) {
      StringBuilder name = new StringBuilder();
      for (char c : path.toCharArray()) {
        if (c < ' ' || c == '\\' || c == 0x7f) {
          name.append(String.format(Locale.ROOT, "\\%03o", (int) c));
        } else {
          name.append(c);
        }
      }
      return name.toString();
    }
  }
}
