package org.sobercompass.core.system.files;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.sobercompass.core.descriptor.WellKnown;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.Implicit;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.membership.Sight;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.system.Trustees;

/**
 * Who could be named in lists of files: by SID where they are shared ({@code objectSid}), else by
 * number (RFC 2307 {@code uidNumber}, {@code gidNumber}). Thread-safe.
 *
 * @param facts all subjects
 * @param sight of which directories they are
 * @param style whose lists
 */
record FileTrustees(Facts facts, Sight sight, FileStyle style) {
  private static final String SID = "objectsid";
  private static final String UID = "uidnumber";
  private static final String GID = "gidnumber";

  /** Whoever is not named otherwise, in lists of numbers. */
  static final String EVERYONE = "";

  /** By what the lists name a subject; empty when it has none. */
  Optional<String> id(int subject) {
    if (facts.kind(subject) == SubjectKind.IMPLICIT) {
      boolean signedIn = facts.implicit(Implicit.SIGNED_IN) == subject;
      return style == FileStyle.SHARED
          ? Optional.of(signedIn ? WellKnown.AUTHENTICATED : WellKnown.EVERYONE)
          : Optional.of(EVERYONE);
    }
    if (!sight.covers(facts.source(subject))) {
      return Optional.empty();
    }
    boolean account = facts.kind(subject) == SubjectKind.ACCOUNT;
    String attribute = style == FileStyle.SHARED ? SID : account ? UID : GID;
    String kind = style == FileStyle.SHARED ? "" : account ? "u:" : "g:";
    return facts.values(subject, attribute).stream().findFirst().map(id -> kind + id.strip());
  }

  /** By what lists name somebody who is written by a name or a number. */
  String id(boolean isGroup, String text) {
    String kind = isGroup ? "g:" : "u:";
    if (text.equals("root")) {
      return kind + "0";
    }
    int from = isGroup ? facts.firstGroup() : 0;
    int to = isGroup ? facts.firstGroup() + facts.groups() : facts.firstGroup();
    for (int subject = from; subject < to; subject++) {
      if (facts.login(subject).equals(text)) {
        Optional<String> id = id(subject);
        if (id.isPresent()) {
          return id.get();
        }
      }
    }
    return kind + text;
  }

  /**
   * The trustees with one of them, who may be named already.
   *
   * @param id a SID; or a kind and a number
   * @throws IllegalArgumentException when nobody is it
   */
  Trustees with(Trustees named, String id) {
    if (named.find(id) >= 0) {
      return named;
    }
    List<Integer> subjects = subjects(id);
    if (subjects.isEmpty()) {
      String who =
          style == FileStyle.SHARED
              ? "the SID " + id
              : (id.startsWith("g:") ? "the group " : "the user ") + Problem.quote(id.substring(2));
      throw new IllegalArgumentException("nobody in the directories that it looks at has " + who);
    }
    String login = facts.login(subjects.get(0));
    return named.with(id, login.isEmpty() ? facts.label(subjects.get(0)) : login, subjects);
  }

  /** By what name entries write whom an id stands for; the number when it is nobody. */
  String name(String id) {
    String number = id.substring(2);
    return subjects(id).stream()
        .map(facts::login)
        .filter(l -> !l.isEmpty())
        .findFirst()
        .orElse(number);
  }

  /** Whom an id stands for, for people; empty when it is nobody. */
  Optional<String> subject(String id) {
    return subjects(id).stream().findFirst().map(facts::title);
  }

  private List<Integer> subjects(String id) {
    List<Integer> subjects = new ArrayList<>();
    if (id.equals(WellKnown.AUTHENTICATED) && style == FileStyle.SHARED) {
      subjects.add(facts.implicit(Implicit.SIGNED_IN));
    }
    for (int subject = 0; subject < facts.firstGroup() + facts.groups(); subject++) {
      if (id(subject).equals(Optional.of(id))) {
        subjects.add(subject);
      }
    }
    return subjects;
  }
}
