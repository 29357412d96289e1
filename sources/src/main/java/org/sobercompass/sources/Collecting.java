package org.sobercompass.sources;

import java.nio.file.Path;
import java.util.List;
import java.util.Optional;

/**
 * The registration of something whose rights are collected into one file, for a workspace to read.
 * Found by {@link java.util.ServiceLoader}. Nothing is changed where it is collected.
 */
public interface Collecting {
  /** The word for it, as typed. */
  String id();

  /**
   * Collects into a file, whole or not at all.
   *
   * @return what was collected, one sentence each
   * @throws Mistyped when what was asked cannot be meant
   */
  List<String> collect(Request request);

  /**
   * What is asked.
   *
   * @param where the address, as typed
   * @param target the file to write
   * @param as as whom to sign in
   * @param secret where the password comes from
   * @param plain whether what is read may cross in clear
   * @param authority the certificate that signs the other side's
   */
  record Request(
      String where,
      Path target,
      Optional<String> as,
      Optional<Secret> secret,
      boolean plain,
      Optional<Path> authority) {}

  /** What was typed cannot be meant; the message says what was expected. */
  final class Mistyped extends RuntimeException {
    private static final long serialVersionUID = 1L;

    private final String words;

    /** With words for the user. */
    public Mistyped(String words) {
      super(words);
      this.words = words;
    }

    /** What is wrong and what was expected. */
    public String words() {
      return words;
    }
  }
}
