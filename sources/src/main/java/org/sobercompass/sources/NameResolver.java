package org.sobercompass.sources;

import java.text.Normalizer;
import java.util.List;
import java.util.stream.Collectors;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.core.problem.Spelling;
import org.sobercompass.core.system.Grant;
import org.sobercompass.sources.directory.DnForm;

/**
 * Resolves names of subjects as people write them. A name that fits two is an error with both; one
 * that fits none is a warning with the nearest, and the subject is kept as missing.
 */
public final class NameResolver {
  private static final int SUGGESTIONS = 5;
  private static final int SHOWN = 5;

  private final Facts facts;
  private final Problems problems;
  private int suggested;

  /** Resolves against these facts. */
  public NameResolver(Facts facts, Problems problems) {
    this.facts = facts;
    this.problems = problems;
  }

  /**
   * All subjects of a kind that a name fits, ascending. An accent may be a character of its own or
   * not (Unicode Standard Annex 15): where nothing fits as it is written, both ways are tried.
   */
  public static List<Integer> find(Facts facts, SubjectKind kind, String name) {
    List<Integer> found = spelled(facts, kind, name);
    if (found.isEmpty() && name.chars().anyMatch(c -> c > 0x7f)) {
      found = spelled(facts, kind, Normalizer.normalize(name, Normalizer.Form.NFC));
      return found.isEmpty()
          ? spelled(facts, kind, Normalizer.normalize(name, Normalizer.Form.NFD))
          : found;
    }
    return found;
  }

  /** A subject as it was typed: of which kind, and by which name. */
  public record Written(SubjectKind kind, String name) {
    /**
     * {@code account}, {@code group}, {@code unit} or {@code implicit} and a name; a key as it is
     * printed; kind, a colon and a name without a slash; a name alone is an account.
     */
    public static Written of(String written) {
      String text = written.strip();
      for (SubjectKind kind : SubjectKind.values()) {
        String word = kind.keyKind().word();
        if (text.regionMatches(true, 0, word + " ", 0, word.length() + 1)) {
          return new Written(kind, text.substring(word.length() + 1).strip());
        }
        if (text.startsWith(word + ":")) {
          // A key has the directory before a slash; a name has none.
          boolean key = kind != SubjectKind.IMPLICIT && text.indexOf('/') > 0;
          return new Written(kind, key ? text : text.substring(word.length() + 1).strip());
        }
      }
      return new Written(SubjectKind.ACCOUNT, text);
    }
  }

  private static List<Integer> spelled(Facts facts, SubjectKind kind, String name) {
    return facts.names().find(kind, name, name.indexOf('=') > 0 ? DnForm.of(name) : name);
  }

  /**
   * Whom something is given to: as {@link #resolve}, and {@link Grant#UNREAD} for a group or unit
   * that is not there, since it may stand where nobody read.
   */
  public int trustee(SubjectKind kind, String name, Place place) {
    int subject = resolve(kind, name, place);
    boolean holds = kind == SubjectKind.GROUP || kind == SubjectKind.UNIT;
    return subject == Grant.MISSING && holds ? Grant.UNREAD : subject;
  }

  /** The subject a name fits, or {@link Grant#MISSING}. */
  public int resolve(SubjectKind kind, String name, Place place) {
    List<Integer> found = find(facts, kind, name);
    if (found.size() == 1) {
      return found.get(0);
    }
    if (found.isEmpty()) {
      problems.add(
          Problem.warning(
                  place,
                  "there is no " + kind.words() + " " + Problem.quote(name),
                  "a login name, mail address, display name, DN or id")
              .near(nearest(kind, name)));
      return Grant.MISSING;
    }
    problems.error(
        place,
        Problem.quote(name) + " fits " + found.size() + " " + kind.words() + "s: " + list(found),
        "the DN or the id of one of them");
    return Grant.MISSING;
  }

  private String list(List<Integer> found) {
    String shown = found.stream().limit(SHOWN).map(facts::dn).collect(Collectors.joining(" and "));
    return found.size() > SHOWN ? shown + " and more" : shown;
  }

  /** The nearest name costs a look at all of them, so only the first few get one. */
  private String nearest(SubjectKind kind, String name) {
    if (kind == SubjectKind.IMPLICIT) {
      return Spelling.nearest(name, List.of("everyone", "members", "signed-in")).orElse("");
    }
    return ++suggested > SUGGESTIONS
        ? ""
        : Spelling.nearest(name, facts.names().known(kind)).orElse("");
  }
}
