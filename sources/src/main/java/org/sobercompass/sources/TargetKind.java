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
  /** The word for it in an amendment. */
  String id();

  /** What its files are, for people. */
  String words();

  /** The ending of its files. */
  String ending();

  /** Records as a file that can be read, and carried out, without this program. */
  String text(List<AmendmentRecord> records);

  /** How such a file is carried out with the system's own tools; empty where there is none. */
  String command(String file);

  /** What is said of where a system of this kind is reached, as typed. */
  String where();

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
