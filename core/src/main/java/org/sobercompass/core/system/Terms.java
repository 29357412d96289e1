package org.sobercompass.core.system;

import java.time.LocalDate;
import java.util.List;
import java.util.Optional;

/**
 * What a system asks of those who use it, besides an enrolment.
 *
 * @param secondFactor whether a second factor must be registered
 * @param place where an enrolment must stand, if there are several places ("this database")
 * @param hosts the hosts it is used from; none when that is not said
 * @param signInName how the name to type is made, with {@code {login}} and {@code {mail}} in it
 * @param caseCounts whether upper and lower case differ in that name, if the system has a rule
 * @param emergency accounts kept outside the directory for when it is down
 * @param administrators the ids of the roles whose holders administer the system
 * @param trusted accounts that the system itself works as or trusts blindly, by login name
 * @param waiting whether its settings wait for a restart, so that it may do something else now
 * @param copied the day of its copy of the directory, if it works on a copy
 * @param switching when it begins to sign in from the directory, if it does not yet
 * @param exported the day its actual assignments were exported, if that is said
 */
public record Terms(
    boolean secondFactor,
    Optional<String> place,
    List<String> hosts,
    String signInName,
    Optional<Boolean> caseCounts,
    List<Emergency> emergency,
    List<String> administrators,
    List<String> trusted,
    boolean waiting,
    Optional<LocalDate> copied,
    Optional<Switch> switching,
    Optional<LocalDate> exported) {

  /** Nothing is asked. */
  public static final Terms NONE =
      new Terms(
          false,
          Optional.empty(),
          List.of(),
          "{login}",
          Optional.empty(),
          List.of(),
          List.of(),
          List.of(),
          false,
          Optional.empty(),
          Optional.empty(),
          Optional.empty());

  /** Copies. */
  public Terms {
    hosts = List.copyOf(hosts);
    emergency = List.copyOf(emergency);
    administrators = List.copyOf(administrators);
    trusted = List.copyOf(trusted);
  }

  /**
   * A switch to the directory: until then only accounts of its own can sign in.
   *
   * @param directory the directory it will sign in from
   * @param at epoch second of the switch
   * @param day the same as written
   */
  public record Switch(String directory, long at, LocalDate day) {}

  /**
   * An account for when the directory is down.
   *
   * @param account its name in the application
   * @param tried when somebody last signed in with it, if ever
   */
  public record Emergency(String account, Optional<LocalDate> tried) {}
}
