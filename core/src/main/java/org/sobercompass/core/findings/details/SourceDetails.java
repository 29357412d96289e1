package org.sobercompass.core.findings.details;

import java.time.LocalDate;
import java.util.List;
import java.util.Optional;

/** About what is around applications and directories: who reads, who gets in, who answers. */
public sealed interface SourceDetails extends Details {
  /**
   * An account by which somebody reads a directory.
   *
   * @param account its number; below 0 where it was not read
   * @param name as it signs in
   * @param whose who reads with it
   */
  record Reader(String directory, int account, String name, String whose) {}

  /** What an account can do besides reading. */
  sealed interface Besides {
    /** An action to an object of the directory. */
    record ToObject(String action, String object) implements Besides {}

    /** Actions by an admin role. */
    record ByRole(List<String> actions, String over, String role) implements Besides {}
  }

  /** What somebody has to be responsible for. */
  enum Sort {
    APPLICATION,
    SCOPE,
    GROUP
  }

  /** A password that is sent in clear. */
  record PasswordInClear(Reader reader) implements SourceDetails {}

  /** An account that only has to read, and can do more. */
  record ReaderWrites(Reader reader, Besides first) implements SourceDetails {}

  /** An application into which nobody gets without its directory. */
  record NoEmergencyAccount(int system) implements SourceDetails {}

  /**
   * An emergency account that was not tried for long.
   *
   * @param tried when it was, if ever
   * @param days how many days ago; less than 0 where that is still to come
   */
  record EmergencyUntested(
      int system, String account, Optional<LocalDate> tried, Optional<Long> days)
      implements SourceDetails {}

  /** Something that nobody is responsible for. */
  record NoOwner(Sort sort, String name) implements SourceDetails {}

  /** Something whose owner does not work any more. */
  record OwnerGone(Sort sort, String name, int owner, boolean isDisabled)
      implements SourceDetails {}
}
