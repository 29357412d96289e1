package org.sobercompass.bench;

import java.io.BufferedWriter;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;

/**
 * Writes a made-up tree of folders and files with 20,000 distinct lists of POSIX, as {@code
 * getfacl} prints it.
 */
final class FileTree {
  private static final int LISTS = 20_000;
  private static final int WIDE = 40;

  private final Random random;
  private final int accounts;
  private final int groups;
  private final String login;

  /**
   * A tree for a host.
   *
   * @param accounts how many accounts there are, {@code login0} and so on
   * @param groups how many groups there are, {@code g0} and so on
   */
  FileTree(Random random, int accounts, int groups, String login) {
    this.random = random;
    this.accounts = accounts;
    this.groups = groups;
    this.login = login;
  }

  /** Writes so many paths. */
  void write(Path file, int paths) throws IOException {
    List<String> lists = new ArrayList<>();
    for (int i = 0; i < LISTS; i++) {
      lists.add(list(i));
    }
    try (BufferedWriter out = Files.newBufferedWriter(file)) {
      out.write("# file: /\n# owner: root\n# group: root\nuser::rwx\ngroup::r-x\nother::r-x\n\n");
      List<String> folders = new ArrayList<>(List.of("/srv"));
      out.write("# file: /srv\n" + lists.get(0));
      int written = 2;
      for (int f = 0; written < paths; f++) {
        String folder = folders.get(f);
        int own = random.nextInt(LISTS);
        for (int i = 0; i < WIDE && written < paths; i++) {
          String path = folder + "/" + (i < 3 ? "folder-" : "notes-of-day-") + i;
          boolean same = random.nextInt(5) > 0;
          out.write("# file: " + path + "\n" + lists.get(same ? own : random.nextInt(LISTS)));
          written++;
          if (i < 3) {
            folders.add(path);
          }
        }
      }
    }
  }

  /** Entries for some out of many, each named once, as in every list. */
  private void named(String begin, int many, int some, StringBuilder text) {
    random
        .ints(0, many)
        .distinct()
        .limit(some)
        .forEach(who -> text.append(begin).append(who).append(":rwx\n"));
  }

  private String list(int number) {
    StringBuilder text = new StringBuilder();
    text.append("# owner: ").append(login).append(random.nextInt(accounts)).append('\n');
    text.append("# group: g").append(random.nextInt(groups)).append("\nuser::rwx\n");
    named("user:" + login, accounts, number % 3, text);
    text.append("group::r-x\n");
    named("group:g", groups, number % 4, text);
    text.append("mask::rwx\nother::").append(number % 50 == 49 ? "rwx" : "r-x").append("\n\n");
    return text.toString();
  }
}
