package org.sobercompass.core.crosswalk;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.BiFunction;
import java.util.stream.Collectors;
import org.sobercompass.core.crosswalk.Reason.Degree;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.person.Link;

/**
 * A table of who of one directory is who of another, with what a person said of each line.
 * Immutable and thread-safe.
 *
 * @param from the directory on the one side
 * @param to the directory on the other
 * @param lines in the order of the table
 */
public record Crosswalk(String from, String to, List<CrosswalkLine> lines) {
  /** Copies. */
  public Crosswalk {
    lines = List.copyOf(lines);
  }

  /** A table without lines. */
  public static Crosswalk empty(String from, String to) {
    return new Crosswalk(from, to, List.of());
  }

  /** What two agree on, for the table: {@code mobile=5550142; name=brandt ilse}. */
  public static String agreed(Candidate candidate) {
    return candidate.reasons().stream()
        .filter(reason -> reason.degree() == Degree.SAME)
        .filter(reason -> !reason.what().equals(MatchRule.PERSON))
        .map(reason -> reason.what() + "=" + reason.value())
        .collect(Collectors.joining("; "));
  }

  /** What was decided of one kind of subject, by numbers; lines about who is gone are left out. */
  public Decided decided(Facts facts, SubjectKind kind) {
    Map<Integer, Integer> same = new LinkedHashMap<>();
    Set<Decided.Pair> never = new HashSet<>();
    for (CrosswalkLine line : lines) {
      Optional<Integer> one = facts.find(line.from());
      Optional<Integer> other = line.to().flatMap(facts::find);
      if (line.kind() == kind && one.isPresent() && other.isPresent()) {
        if (line.ruling() == Ruling.SAME) {
          same.putIfAbsent(one.get(), other.get());
        } else if (line.ruling() == Ruling.NEVER) {
          never.add(new Decided.Pair(one.get(), other.get()));
        }
      }
    }
    return new Decided(same, never);
  }

  /** The accepted counterpart of each subject of any kind that has one, by numbers. */
  public Map<Integer, Integer> counterparts(Facts facts) {
    Map<Integer, Integer> all = new LinkedHashMap<>();
    for (SubjectKind kind : List.of(SubjectKind.ACCOUNT, SubjectKind.GROUP, SubjectKind.UNIT)) {
      all.putAll(decided(facts, kind).same());
    }
    return all;
  }

  /**
   * Accounts that are one person's, and those that are not, by what was decided.
   *
   * @param same whether those that are; else those that are not
   */
  public List<Link> links(Facts facts, boolean same) {
    Ruling wanted = same ? Ruling.SAME : Ruling.NEVER;
    List<Link> links = new ArrayList<>();
    for (CrosswalkLine line : lines) {
      Optional<Integer> one = facts.find(line.from());
      Optional<Integer> other = line.to().flatMap(facts::find);
      boolean counts = line.kind() == SubjectKind.ACCOUNT && line.ruling() == wanted;
      if (counts && one.isPresent() && other.isPresent()) {
        links.add(new Link(one.get(), other.get(), reason(line)));
      }
    }
    return links;
  }

  private static String reason(CrosswalkLine line) {
    String who = line.by().isEmpty() ? "in the crosswalk" : "accepted by " + line.by();
    return who + line.on().map(day -> " on " + day).orElse("");
  }

  /** What of a line is wrong, or does not hold any more. */
  public enum Trouble {
    /** The one is not in its directory any more. */
    FROM_GONE,
    /** The other is not. */
    TO_GONE,
    /** The same by its id, under another name. */
    RENAMED,
    /** What they agreed on when it was accepted is not so any more. */
    CHANGED,
    /** Another line says that the one is somebody else. */
    TWICE,
    /** Following lines from one to the other leads back. */
    CIRCLE,
    /** Several of the one side are said to be the same of the other. */
    MERGED
  }

  /**
   * What there is to say of a line.
   *
   * @param now what is so now: the present name; on what they agree now; who else; or empty
   */
  public record Doubt(CrosswalkLine line, Trouble trouble, String now) {
    /** Whether nothing can be done by the table before it is mended. */
    public boolean isWrong() {
      return trouble == Trouble.TWICE || trouble == Trouble.CIRCLE;
    }
  }

  /**
   * Holds the decided lines against the facts.
   *
   * @param weighed weighs an account of the one side against one of the other; empty where they are
   *     not to be compared any more
   */
  public List<Doubt> doubts(
      Facts facts, BiFunction<Integer, Integer, Optional<Candidate>> weighed) {
    List<Doubt> doubts = new ArrayList<>(contradictions());
    for (CrosswalkLine line : lines) {
      if (line.ruling() == Ruling.OPEN) {
        continue;
      }
      Optional<Integer> one = facts.find(line.from());
      Optional<Integer> other = line.to().flatMap(facts::find);
      if (one.isEmpty()) {
        doubts.add(new Doubt(line, Trouble.FROM_GONE, ""));
      } else if (!called(facts, one.get()).equals(line.fromName())) {
        doubts.add(new Doubt(line, Trouble.RENAMED, called(facts, one.get())));
      }
      if (line.to().isPresent() && other.isEmpty()) {
        doubts.add(new Doubt(line, Trouble.TO_GONE, ""));
      } else if (other.isPresent() && !called(facts, other.get()).equals(line.toName())) {
        doubts.add(new Doubt(line, Trouble.RENAMED, called(facts, other.get())));
      }
      boolean compared =
          line.isAccepted() && line.kind() == SubjectKind.ACCOUNT && !line.agreed().isEmpty();
      if (compared && one.isPresent() && other.isPresent()) {
        String now =
            weighed.apply(one.get(), other.get()).map(Crosswalk::agreed).orElse(line.agreed());
        if (!now.equals(line.agreed())) {
          doubts.add(new Doubt(line, Trouble.CHANGED, now));
        }
      }
    }
    return List.copyOf(doubts);
  }

  /** The name by which the table names a subject. */
  public static String called(Facts facts, int subject) {
    String login = facts.login(subject);
    return login.isEmpty() ? facts.label(subject) : login;
  }

  /** Lines that cannot both be true, and those that make several one. */
  public List<Doubt> contradictions() {
    List<Doubt> doubts = new ArrayList<>();
    Map<Key, CrosswalkLine> first = new HashMap<>();
    Map<Key, CrosswalkLine> wanted = new HashMap<>();
    for (CrosswalkLine line : lines) {
      if (!line.isAccepted()) {
        continue;
      }
      Key other = line.to().orElseThrow();
      CrosswalkLine before = first.putIfAbsent(line.from(), line);
      if (before != null && !before.to().equals(line.to())) {
        doubts.add(new Doubt(line, Trouble.TWICE, before.toName()));
      }
      CrosswalkLine owner = wanted.putIfAbsent(other, line);
      if (owner != null && !owner.from().equals(line.from())) {
        doubts.add(new Doubt(line, Trouble.MERGED, owner.fromName()));
      }
    }
    first.values().stream()
        .filter(line -> isInCircle(line, first))
        .forEach(line -> doubts.add(new Doubt(line, Trouble.CIRCLE, line.toName())));
    return doubts;
  }

  private static boolean isInCircle(CrosswalkLine line, Map<Key, CrosswalkLine> lines) {
    Set<Key> met = new HashSet<>();
    CrosswalkLine at = line;
    while (at != null && met.add(at.from())) {
      at = lines.get(at.to().orElseThrow());
    }
    return at != null && at.from().equals(line.from());
  }
}
