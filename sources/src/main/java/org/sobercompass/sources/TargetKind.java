package org.sobercompass.sources;

import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import org.sobercompass.core.amendment.AmendmentRecord;
import org.sobercompass.core.amendment.LiveTarget;

/**
 * The registration of one way in which systems are changed. Found by {@link
 * java.util.ServiceLoader}. Thread-safe.
 */
public interface TargetKind {
  /** What it is called, and what its files are. */
  Form form();

  /**
   * What a way of changing systems is called, and what its files are.
   *
   * @param id the word for it in an amendment
   * @param words what its files are, for people
   * @param ending the ending of its files
   * @param where what is typed for where a system is
   * @param command how the system's own tools carry out a {@code FILE}; empty where there are none
   */
  record Form(String id, String words, String ending, String where, String command) {
    /** The command for a file; the file alone where there is none. */
    public String command(String file) {
      return command.isEmpty() ? file : command.replace("FILE", file);
    }
  }

  /**
   * What making a record loses for good, so that no undo brings it back: sentences without a full
   * stop. What loses something is made only where that was accepted.
   */
  default List<String> losses(AmendmentRecord record) {
    return List.of();
  }

  /** Records as a file that can be read, and carried out, without this program. */
  String text(List<AmendmentRecord> records);

  /**
   * Reaches a system and signs in.
   *
   * @throws org.sobercompass.core.problem.OutsideException when it cannot be reached or refuses
   * @throws Collecting.Mistyped when what was typed cannot be meant
   */
  LiveTarget open(Door door, Secret.Origins origins);

  /**
   * The way to a system.
   *
   * @param target its name in the amendment
   * @param where the address, as typed; empty where there is a usual one
   * @param as as whom to sign in
   * @param secret where the password comes from
   * @param plain whether what is sent may cross in clear
   * @param authority the certificate that signs the other side's
   */
  record Door(
      String target,
      String where,
      Optional<String> as,
      Optional<Secret> secret,
      boolean plain,
      Optional<Path> authority) {}
}
