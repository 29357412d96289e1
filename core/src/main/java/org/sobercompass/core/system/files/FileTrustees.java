package org.sobercompass.core.system.files;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.sobercompass.core.descriptor.WellKnown;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.Implicit;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.membership.Sight;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.system.Trustees;

/**
 * Who could be named in lists of files: by SID where they are shared ({@code objectSid}), else by
 * number (RFC 2307 {@code uidNumber}, {@code gidNumber}). Looks at all subjects when the first name
 * or number is asked for. Thread-safe.
 */
final class FileTrustees {
  private static final String SID = "objectsid";
  private static final String UID = "uidnumber";
  private static final String GID = "gidnumber";

  /** Whoever is not named otherwise, in lists of numbers. */
  static final String EVERYONE = "";

  private final Facts facts;
  private final Sight sight;
  private final FileStyle style;
  private @Nullable Index index;

  /** Who has which id, and which login name. */
  private record Index(Map<String, List<Integer>> byId, Map<String, Integer> byLogin) {}

  /**
   * Names for lists.
   *
   * @param facts all subjects
   * @param sight of which directories they are
   * @param style whose lists
   */
  FileTrustees(Facts facts, Sight sight, FileStyle style) {
    this.facts = facts;
    this.sight = sight;
    this.style = style;
  }

  private synchronized Index index() {
    if (index == null) {
      Map<String, List<Integer>> byId = new HashMap<>();
      Map<String, Integer> byLogin = new HashMap<>();
      for (int subject = 0; subject < facts.firstGroup() + facts.groups(); subject++) {
        Optional<String> id = id(subject);
        if (id.isPresent()) {
          byId.computeIfAbsent(id.get(), i -> new ArrayList<>()).add(subject);
          boolean group = facts.kind(subject) == SubjectKind.GROUP;
          byLogin.putIfAbsent((group ? "g:" : "u:") + facts.login(subject), subject);
        }
      }
      index = new Index(byId, byLogin);
    }
    return index;
  }

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
    Integer subject = index().byLogin.get(kind + text);
    return subject == null ? kind + text : id(subject).orElse(kind + text);
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
    subjects.addAll(index().byId.getOrDefault(id, List.of()));
    return subjects;
  }
}
