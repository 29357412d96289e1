package org.sobercompass.core.comparison;

import java.time.Instant;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.audit.Findings;
import org.sobercompass.core.audit.Foretold;
import org.sobercompass.core.facts.Counterparts;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.findings.Assessment;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.findings.Routine;
import org.sobercompass.core.key.Key;

/**
 * What differs between two readings of one organization. Accounts and groups are matched by their
 * immutable ids, systems and what is in them by theirs.
 *
 * @param from as of when it was before
 * @param to as of when it is now
 * @param causes what did it, the one that concerns most first; those without effect last
 * @param subjects who is new, gone, renamed or moved
 * @param begun the findings that are there now and were not
 * @param ended the findings that were there and are not
 * @param otherwise what else differs, a sentence without a full stop each
 * @param alone whether the effects of each change by itself were worked out; not where there are
 *     more than {@link Causes#MOST}
 */
public record Comparison(
    Instant from,
    Instant to,
    List<Cause> causes,
    List<SubjectChange> subjects,
    List<Finding> begun,
    List<Finding> ended,
    List<String> otherwise,
    boolean alone) {
  /** Copies. */
  public Comparison {
    causes = List.copyOf(causes);
    subjects = List.copyOf(subjects);
    begun = List.copyOf(begun);
    ended = List.copyOf(ended);
    otherwise = List.copyOf(otherwise);
  }

  /**
   * Compares two readings. O(two runs over all accounts and all findings, and the effects of each
   * change).
   */
  public static Comparison of(Assessment before, Assessment now) {
    Causes causes = new Causes(before, now);
    List<Cause> found = causes.all();
    List<Finding> was = Findings.of(before);
    List<Finding> is = Findings.of(now);
    return new Comparison(
        before.model().asOf(),
        now.model().asOf(),
        found,
        subjects(before.model(), now.model()),
        Finding.without(is, was),
        Finding.without(was, is),
        causes.otherwise(),
        causes.isAlone());
  }

  /**
   * The same, with the causes of which all effects were foretold by an amendment as what that did.
   *
   * @param amendment its name
   */
  public Comparison carriedOut(String amendment, Foretold foretold) {
    Set<List<String>> said = new HashSet<>();
    foretold.rights().forEach(r -> said.add(List.of(r.account(), r.system(), r.what(), r.where())));
    List<Cause> marked = new ArrayList<>();
    for (Cause cause : causes) {
      boolean all =
          !cause.shifts().isEmpty()
              && cause.shifts().stream()
                  .allMatch(
                      s ->
                          said.contains(
                              List.of(s.account().text(), s.system(), s.right(), s.where())));
      marked.add(all ? cause.by(amendment) : cause);
    }
    return new Comparison(from, to, marked, subjects, begun, ended, otherwise, alone);
  }

  /**
   * Without what is routine: members of such groups, permissions in such applications, such changes
   * of accounts with what they gained and lost. Findings are never routine.
   */
  public Comparison without(Routine routine) {
    List<Cause> left = new ArrayList<>();
    for (Cause cause : causes) {
      boolean inApplications =
          cause.size() > 0
              && cause.acts().isEmpty()
              && cause.lostActs().isEmpty()
              && cause.shifts().stream()
                  .allMatch(shift -> routine.applications().contains(shift.system()));
      boolean ofGroup = cause.group().filter(routine.groups()::contains).isPresent();
      boolean ofAccount =
          cause.subject().filter(this::isAccount).isPresent()
              && routine.accounts().contains(cause.kind() == Cause.Kind.NEW ? "new" : "gone");
      if (!inApplications && !ofGroup && !ofAccount) {
        left.add(cause);
      }
    }
    List<SubjectChange> others =
        subjects.stream()
            .filter(
                s -> s.of() != SubjectKind.ACCOUNT || !routine.accounts().contains(s.kind().word()))
            .toList();
    return new Comparison(from, to, left, others, begun, ended, otherwise, alone);
  }

  private boolean isAccount(Key key) {
    return subjects.stream().anyMatch(s -> s.of() == SubjectKind.ACCOUNT && s.key().equals(key));
  }

  private static List<SubjectChange> subjects(AccessModel before, AccessModel now) {
    List<SubjectChange> all = new ArrayList<>();
    Facts was = before.facts();
    Facts is = now.facts();
    Counterparts earlier = Counterparts.of(is, was);
    for (int s = 0; s < is.accounts() + is.groups(); s++) {
      Optional<Integer> then = earlier.of(s);
      if (then.isEmpty()) {
        all.add(
            new SubjectChange(
                SubjectChange.Kind.NEW, is.kind(s), is.key(s), is.title(s), "", is.title(s)));
      } else {
        called(was, then.get(), is, s, all);
      }
    }
    Counterparts later = Counterparts.of(was, is);
    for (int s = 0; s < was.accounts() + was.groups(); s++) {
      if (later.of(s).isEmpty()) {
        all.add(
            new SubjectChange(
                SubjectChange.Kind.GONE, was.kind(s), was.key(s), was.title(s), was.title(s), ""));
      }
    }
    return all;
  }

  private static void called(Facts was, int then, Facts is, int now, List<SubjectChange> into) {
    Key key = is.key(now);
    String name = is.title(now);
    String title = was.title(then);
    if (!title.equals(name)) {
      into.add(new SubjectChange(SubjectChange.Kind.RENAMED, is.kind(now), key, name, title, name));
    }
    String above = above(is.dn(now));
    String aboveThen = above(was.dn(then));
    if (!aboveThen.equals(above)) {
      into.add(
          new SubjectChange(SubjectChange.Kind.MOVED, is.kind(now), key, name, aboveThen, above));
    }
  }

  /** The part of a DN after its first comma that is not escaped. */
  private static String above(String dn) {
    for (int i = 0; i < dn.length(); i++) {
      if (dn.charAt(i) == '\\') {
        i++;
      } else if (dn.charAt(i) == ',') {
        return dn.substring(i + 1);
      }
    }
    return "";
  }

  /** Whether nothing differs. */
  public boolean isNone() {
    return causes.isEmpty()
        && subjects.isEmpty()
        && begun.isEmpty()
        && ended.isEmpty()
        && otherwise.isEmpty();
  }
}
