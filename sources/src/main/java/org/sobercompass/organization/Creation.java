package org.sobercompass.organization;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.key.KeyKind;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.problem.UnknownNameException;
import org.sobercompass.core.proposal.Step;
import org.sobercompass.sources.directory.DirectoryKind;
import org.sobercompass.sources.directory.DnForm;
import org.sobercompass.sources.directory.Secrets;

/**
 * An account or group that a proposal creates.
 *
 * @param step that it is created, without members
 * @param members whom it lists from the beginning, by DN or login, as written
 */
record Creation(Step.Presence step, List<String> members) {
  /** The attributes that list members, in lower case. */
  static final Set<String> MEMBERS = Set.of("member", "uniquemember", "memberuid");

  /** Said of an attribute that is a secret. */
  static final String SECRET = "passwords and keys are never part of a proposal";

  /** What is expected in its place. */
  static final String NO_SECRET = "the entry without it; set it with the directory's own tools";

  /** Whether an attribute holds a password or a key. */
  static boolean isSecret(String attribute) {
    return Secrets.names().contains(attribute.toLowerCase(Locale.ROOT).replaceFirst(";.*", ""));
  }

  /**
   * Of an entry.
   *
   * @param directory where it is created
   * @param attributes its attributes, members among them
   */
  static Creation of(
      KeyKind kind, String directory, String dn, Map<String, List<String>> attributes) {
    Map<String, List<String>> own = new LinkedHashMap<>();
    List<String> members = new ArrayList<>();
    attributes.forEach(
        (name, values) -> {
          if (MEMBERS.contains(name.toLowerCase(Locale.ROOT))) {
            members.addAll(values);
          } else {
            own.put(name, values);
          }
        });
    return new Creation(
        new Step.Presence(new Key(kind, directory, DnForm.of(dn)), dn, own, true),
        List.copyOf(members));
  }

  /** The kind of key of an entry of these object classes: a group's, else an account's. */
  static KeyKind kind(List<String> objectClasses) {
    boolean group =
        objectClasses.stream()
            .map(name -> name.toLowerCase(Locale.ROOT))
            .anyMatch(
                name -> DirectoryKind.ALL.stream().anyMatch(kind -> kind.groups().contains(name)));
    return group ? KeyKind.GROUP : KeyKind.ACCOUNT;
  }

  /** The directory in which an entry would stand: the one that has its parent. */
  static Optional<String> directory(Facts facts, String dn) {
    String above = DnForm.of(dn);
    for (int comma = above.indexOf(','); comma >= 0; comma = above.indexOf(',')) {
      above = above.substring(comma + 1);
      List<Integer> units = facts.names().find(SubjectKind.UNIT, above, above);
      if (!units.isEmpty()) {
        return Optional.of(facts.source(units.get(0)));
      }
    }
    return Optional.empty();
  }

  /** A group that is to be created where another one stands, of the same kind. */
  static Step.Presence groupLike(Organization of, String name, int like) {
    Facts facts = of.model().facts();
    String directory = facts.source(like);
    return of.workspace().directories().stream()
        .filter(one -> one.name().equals(directory))
        .findFirst()
        .flatMap(one -> one.kind().groupLike(one.entries(), directory, facts.dn(like), name))
        .orElseThrow(
            () ->
                new UnknownNameException(
                    "groups like "
                        + Problem.quote(facts.label(like))
                        + " are created where they are kept, not by this program"));
  }
}
