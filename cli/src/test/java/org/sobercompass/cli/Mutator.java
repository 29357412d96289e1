package org.sobercompass.cli;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Random;
import java.util.regex.MatchResult;
import java.util.regex.Pattern;
import java.util.zip.GZIPOutputStream;

/** Spoils a file at random: as a hand, a tool, a full disk or an attacker would. */
final class Mutator {
  private static final Pattern TOKEN = Pattern.compile("[^\\s,:;=\\[\\]{}\"|]+");

  /** What stands where something else was expected. */
  private static final List<String> STRANGE =
      List.of(
          "[]",
          "{}",
          "\"\"",
          "~",
          "[[]]",
          "{a: b}",
          "- - -",
          "9999999999999999999",
          "-9999999999999999999",
          "9223372036854775807",
          "-1",
          "0",
          "1p0",
          "1e9",
          "NaN",
          "+999999999-12-31",
          "0000-00-00",
          "2026-02-30",
          "-999999999-01-01T00:00:00Z",
          "99991231235959.0Z",
          "\"\\0\"",
          "\"a\\0b\"",
          "a\u0000b",
          "/etc/passwd",
          "../../../etc/passwd",
          "/dev/zero",
          "file:///etc/passwd",
          "*",
          "&a [*a]",
          "!!java.io.File [x]",
          "yes",
          "no",
          "everyone",
          "members",
          "\u202egnp.exe",
          "\u001b[31mred",
          "NO_ACCESS_CONTROL",
          "D:NO_ACCESS_CONTROL",
          "O:BAG:BAD:",
          "D:(A;;;;;)",
          "S-1-5-18446744073709551616-1",
          "S-1-",
          ":",
          "::",
          "#",
          "Version: 1",
          "dn:",
          "dn: ,,=",
          "cn=a+,=\\",
          "(&(|(!(",
          "((((((((((((((((((((",
          "<",
          "< file:///etc/passwd",
          "\ufeff",
          "\ud800",
          "%s%n",
          "'",
          "\"");

  private final Random random;

  Mutator(long seed) {
    this.random = new Random(seed);
  }

  int next(int bound) {
    return random.nextInt(bound);
  }

  boolean chance(int of) {
    return random.nextInt(of) == 0;
  }

  /** Spoils one file; what was done, in words. */
  String spoil(Path file, List<Path> others) throws IOException {
    byte[] bytes = Files.readAllBytes(file);
    int what = random.nextInt(24);
    switch (what) {
      case 0 -> {
        Files.delete(file);
        Files.createDirectory(file);
        return "a folder in its place";
      }
      case 1 -> {
        Files.delete(file);
        return "deleted";
      }
      case 2 -> bytes = new byte[0];
      case 3 -> bytes = head(bytes, random.nextInt(bytes.length + 1));
      case 4 -> bytes = new String(bytes, StandardCharsets.UTF_8).getBytes(StandardCharsets.UTF_16);
      case 5 -> bytes = zipped(bytes);
      case 6 -> bytes = ("\ufeff" + text(bytes)).getBytes(StandardCharsets.UTF_8);
      case 7 -> bytes = text(bytes).replace("\n", "\r\n").getBytes(StandardCharsets.UTF_8);
      case 8 -> bytes = text(bytes).replace(",", ";").getBytes(StandardCharsets.UTF_8);
      case 9 -> bytes = Files.readAllBytes(others.get(random.nextInt(others.size())));
      case 10, 11 -> bytes = bytesChanged(bytes);
      case 12, 13, 14, 15 -> bytes = linesChanged(text(bytes)).getBytes(StandardCharsets.UTF_8);
      default -> bytes = tokensChanged(text(bytes)).getBytes(StandardCharsets.UTF_8);
    }
    Files.write(file, bytes);
    return "spoiled in way " + what;
  }

  private static String text(byte[] bytes) {
    return new String(bytes, StandardCharsets.UTF_8);
  }

  private static byte[] head(byte[] bytes, int length) {
    return java.util.Arrays.copyOf(bytes, length);
  }

  private static byte[] zipped(byte[] bytes) throws IOException {
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    try (GZIPOutputStream zip = new GZIPOutputStream(out)) {
      zip.write(bytes);
    }
    return out.toByteArray();
  }

  private byte[] bytesChanged(byte[] bytes) {
    byte[] changed = bytes.clone();
    for (int i = 0; changed.length > 0 && i <= random.nextInt(8); i++) {
      changed[random.nextInt(changed.length)] = (byte) random.nextInt(256);
    }
    return changed;
  }

  private String linesChanged(String text) {
    List<String> lines = new ArrayList<>(List.of(text.split("\n", -1)));
    int at = random.nextInt(lines.size());
    int other = random.nextInt(lines.size());
    switch (random.nextInt(6)) {
      case 0 -> lines.remove(at);
      case 1 -> lines.add(other, lines.get(at));
      case 2 -> Collections.swap(lines, at, other);
      case 3 -> lines.subList(Math.min(at, other), Math.max(at, other)).clear();
      case 4 -> lines.addAll(List.copyOf(lines));
      default -> lines.set(at, lines.get(at).indent(random.nextInt(5)).stripTrailing());
    }
    return String.join("\n", lines);
  }

  private String tokensChanged(String text) {
    String changed = text;
    for (int i = 0; i <= random.nextInt(3); i++) {
      List<MatchResult> tokens = TOKEN.matcher(changed).results().toList();
      if (tokens.isEmpty()) {
        return changed + strange();
      }
      MatchResult token = tokens.get(random.nextInt(tokens.size()));
      String by =
          switch (random.nextInt(4)) {
            case 0 -> tokens.get(random.nextInt(tokens.size())).group();
            case 1 -> "";
            default -> strange();
          };
      changed = changed.substring(0, token.start()) + by + changed.substring(token.end());
    }
    return changed;
  }

  private String strange() {
    return random.nextInt(40) == 0
        ? STRANGE.get(random.nextInt(STRANGE.size())).repeat(2000)
        : STRANGE.get(random.nextInt(STRANGE.size()));
  }
}
