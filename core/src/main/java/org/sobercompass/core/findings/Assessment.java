package org.sobercompass.core.findings;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.Gaps;
import org.sobercompass.core.admin.Powers;
import org.sobercompass.core.delegation.DirectoryTree;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.person.Persons;
import org.sobercompass.core.problem.Gap;
import org.sobercompass.core.system.Change;
import org.sobercompass.core.system.Setting;

/**
 * What is judged, and by which rules.
 *
 * @param model the access model
 * @param rules thresholds and separation rules
 * @param persons which accounts are one person's
 * @param powers who can administer what
 * @param owned who answers for applications and scopes
 * @param readers the accounts that read the directories
 * @param accepted directories as they were accepted once: what was there then is no delegation
 * @param local the directories of accounts that an application or a host keeps itself
 */
public record Assessment(
    AccessModel model,
    FindingRules rules,
    Persons persons,
    Powers powers,
    Owned owned,
    List<ReadingAccount> readers,
    List<DirectoryTree> accepted,
    Set<String> local) {

  /** The model is the one that the powers are over. */
  public Assessment {
    model = powers.model();
  }

  /** With no directory of accounts that an application or host keeps itself. */
  public Assessment(
      AccessModel model,
      FindingRules rules,
      Persons persons,
      Powers powers,
      Owned owned,
      List<ReadingAccount> readers,
      List<DirectoryTree> accepted) {
    this(model, rules, persons, powers, owned, readers, accepted, Set.of());
  }

  /**
   * Who answers for applications and scopes.
   *
   * @param applications the number of the owner, by the id of the application
   * @param scopes the same by the id of the scope
   * @param places the same by the id of the application, then of the node or the path
   */
  public record Owned(
      Map<String, Integer> applications,
      Map<String, Integer> scopes,
      Map<String, Map<String, Integer>> places) {
    /** Nobody is responsible for anything. */
    public static final Owned NOBODY = new Owned(Map.of(), Map.of(), Map.of());

    /** Those who are there; who was deleted answers for nothing. */
    Owned present(Facts facts) {
      if (facts.absent().isEmpty()) {
        return this;
      }
      Map<String, Map<String, Integer>> left = new HashMap<>();
      places.forEach((id, owners) -> left.put(id, present(facts, owners)));
      return new Owned(present(facts, applications), present(facts, scopes), left);
    }

    private static Map<String, Integer> present(Facts facts, Map<String, Integer> owners) {
      Map<String, Integer> left = new HashMap<>(owners);
      left.values().removeIf(facts::isAbsent);
      return left;
    }
  }

  /**
   * An account that reads a directory for us or for an application.
   *
   * @param directory the directory
   * @param account its number, or -1 when it is in no directory that is looked at
   * @param name as written
   * @param inClear whether its password goes over the wire unprotected
   * @param whose who uses it, in words
   */
  public record ReadingAccount(
      String directory, int account, String name, boolean inClear, String whose) {}

  /** A model by the usual thresholds, every account a person, no admin roles or lists. */
  public static Assessment of(AccessModel model, List<SeparationRule> separation) {
    return new Assessment(
        model,
        FindingRules.of(separation),
        Persons.none(model.facts()),
        Powers.none(model),
        Owned.NOBODY,
        List.of(),
        List.of());
  }

  /** The same by other rules. */
  public Assessment by(FindingRules others) {
    return new Assessment(model, others, persons, powers, owned, readers, accepted, local);
  }

  /** What was not read, so that findings that depend on it are missing. */
  public List<Gap> gaps() {
    List<Gap> gaps = new ArrayList<>(powers.gaps());
    gaps.addAll(Gaps.ofSystems(model));
    return List.copyOf(gaps);
  }

  /** A directory as it was accepted, if it was. */
  public Optional<DirectoryTree> accepted(String directory) {
    return accepted.stream().filter(tree -> tree.directory().equals(directory)).findFirst();
  }

  /** The same with changes laid over it: memberships, assignments, admin roles, entries. */
  public Assessment with(List<Change> changes) {
    return over(model.with(changes));
  }

  /**
   * The same with the roles and scopes that settings are to create; see {@link
   * AccessModel#expecting}.
   */
  public Assessment expecting(Map<String, List<Setting>> settings) {
    return settings.isEmpty() ? this : over(model.expecting(settings));
  }

  /** The same for another thread: powers keep what they worked out, and are not thread-safe. */
  Assessment apart() {
    return new Assessment(model, rules, persons, powers.apart(), owned, readers, accepted, local);
  }

  /** The same over the model with changes laid over it. */
  public Assessment over(AccessModel changed) {
    return new Assessment(
        changed,
        rules,
        persons,
        powers.over(changed),
        owned.present(changed.facts()),
        readers,
        accepted,
        local);
  }
}
