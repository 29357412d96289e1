package org.sobercompass.cli;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.Collections;
import java.util.HexFormat;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.zip.ZipEntry;
import java.util.zip.ZipFile;
import java.util.zip.ZipOutputStream;

/** A survey that somebody changed and made whole again: its list has the new digests. */
final class EvilSurvey implements AutoCloseable {
  private static final String LIST = "manifest.json";

  private final Path target;
  private final Map<String, byte[]> files = new LinkedHashMap<>();

  EvilSurvey(Path survey, Path target) throws IOException {
    this.target = target;
    try (ZipFile zip = new ZipFile(survey.toFile())) {
      for (var entry : Collections.list(zip.entries())) {
        files.put(entry.getName(), zip.getInputStream(entry).readAllBytes());
      }
    }
  }

  void replace(String file, String from, String to) {
    byte[] before = files.get(file);
    String text = new String(before, StandardCharsets.UTF_8);
    if (!text.contains(from)) {
      throw new IllegalArgumentException(from + " is not in " + file);
    }
    byte[] after = text.replace(from, to).getBytes(StandardCharsets.UTF_8);
    files.put(file, after);
    String list = new String(files.get(LIST), StandardCharsets.UTF_8);
    files.put(LIST, list.replace(hex(before), hex(after)).getBytes(StandardCharsets.UTF_8));
  }

  private static String hex(byte[] bytes) {
    try {
      return HexFormat.of().formatHex(MessageDigest.getInstance("SHA-256").digest(bytes));
    } catch (NoSuchAlgorithmException e) {
      throw new IllegalStateException(e);
    }
  }

  @Override
  public void close() throws IOException {
    try (ZipOutputStream zip = new ZipOutputStream(Files.newOutputStream(target))) {
      for (var file : files.entrySet()) {
        zip.putNextEntry(new ZipEntry(file.getKey()));
        zip.write(file.getValue());
        zip.closeEntry();
      }
    }
  }
}
