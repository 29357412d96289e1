package org.sobercompass.core.audit;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.sobercompass.core.access.Can;
import org.sobercompass.core.access.Cells;
import org.sobercompass.core.admin.Powers;
import org.sobercompass.core.delegation.AdminAction;
import org.sobercompass.core.delegation.DirectoryTree;
import org.sobercompass.core.delegation.DirectoryTrees;
import org.sobercompass.core.findings.Assessment;
import org.sobercompass.core.findings.ObjectKeys;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.system.Change;
import org.sobercompass.core.system.Verdict;

/**
 * Which admin actions persons can do before changes by their old accounts and by the new one, and
 * after them by the new one. Not thread-safe.
 */
public final class ActsOfPersons {
  /** So many questions are asked at most: objects x actions x accounts. */
  public static final long MOST = 10_000_000;

  private final Powers before;
  private final Powers after;
  private final ObjectKeys keys;
  private final Map<Integer, List<Integer>> persons;
  private final BitSet subjects;
  private final Map<Integer, List<Act>> found = new LinkedHashMap<>();

  /**
   * One action to one object.
   *
   * @param action the id of the action
   * @param words its name
   * @param object the key of the object
   * @param label the name of the object
   * @param old what the old accounts could before, as {@link Cells#rank}
   * @param before what the new account could before
   * @param after what the new account can after
   */
  public record Act(
      String action, String words, Key object, String label, int old, int before, int after) {}

  private ActsOfPersons(Assessment before, Assessment after, Map<Integer, List<Integer>> persons) {
    this.before = before.powers();
    this.after = after.powers();
    this.keys = new ObjectKeys(this.before);
    this.persons = persons;
    this.subjects = isNothing() ? new BitSet() : subjects();
  }

  /**
   * Looks at all objects with a list, and all that somebody of them has an admin role over.
   * O(objects x actions x accounts).
   *
   * @param persons the old accounts of each new one
   * @return by the new account, what anybody of these can do; empty when there are more than {@link
   *     #MOST} questions
   */
  public static Optional<Map<Integer, List<Act>>> of(
      Assessment before, List<Change> changes, Map<Integer, List<Integer>> persons) {
    ActsOfPersons work = new ActsOfPersons(before, before.with(changes), persons);
    return work.questions() > MOST ? Optional.empty() : Optional.of(work.all());
  }

  /** The subjects that anybody of them has an admin role over, before or after. */
  private BitSet subjects() {
    BitSet who = new BitSet();
    persons.forEach(
        (to, from) -> {
          who.set(to);
          from.forEach(who::set);
        });
    BitSet subjects = new BitSet();
    for (Powers powers : List.of(before, after)) {
      for (int g = 0; g < powers.roles().administration().grants().size(); g++) {
        if (RoleReach.accounts(powers, g).intersects(who)) {
          subjects.or(RoleReach.over(powers, g));
        }
      }
    }
    return subjects;
  }

  private long questions() {
    long objects = subjects.cardinality();
    for (DirectoryTree tree : before.trees().all()) {
      objects += tree.size();
    }
    long accounts = persons.values().stream().mapToLong(from -> from.size() + 2L).sum();
    return isNothing() ? 0 : objects * before.roles().administration().actions().size() * accounts;
  }

  private boolean isNothing() {
    return before.trees().isEmpty() && after.roles().administration().grants().isEmpty();
  }

  private Map<Integer, List<Act>> all() {
    persons.keySet().forEach(to -> found.put(to, new ArrayList<>()));
    if (isNothing()) {
      return found;
    }
    subjects.stream()
        .filter(subject -> before.trees().object(subject).isEmpty())
        .forEach(subject -> ask(before.thing(subject), after.thing(subject)));
    for (int t = 0; t < before.trees().all().size(); t++) {
      DirectoryTree was = before.trees().all().get(t);
      DirectoryTree is = after.trees().all().get(t);
      for (int object = 0; object < was.size(); object++) {
        ask(
            before.thing(new DirectoryTrees.Spot(was, object)),
            after.thing(new DirectoryTrees.Spot(is, object)));
      }
    }
    return found;
  }

  private void ask(Powers.Thing then, Powers.Thing now) {
    for (AdminAction action : before.roles().administration().actions()) {
      if (!before.fits(action, then)) {
        continue;
      }
      persons.forEach(
          (to, from) -> {
            int old =
                from.stream().mapToInt(one -> rank(before, one, action, then)).max().orElse(0);
            int own = rank(before, to, action, then);
            int has = rank(after, to, action, now);
            if (old + own + has > 0) {
              List<Act> acts = found.computeIfAbsent(to, t -> new ArrayList<>());
              acts.add(new Act(action.id(), action.name(), key(then), label(then), old, own, has));
            }
          });
    }
  }

  /** Where the rules over an object were not read, only what is sure counts. */
  private static int rank(Powers powers, int account, AdminAction action, Powers.Thing thing) {
    Can can = powers.usable(account, action, thing, Optional.empty());
    return can.held() != Verdict.YES && !powers.isRead(thing) ? 0 : Cells.rank(can);
  }

  private Key key(Powers.Thing thing) {
    return thing.subject() >= 0
        ? before.model().facts().key(thing.subject())
        : keys.key(thing.spot().orElseThrow().tree(), thing.spot().orElseThrow().object());
  }

  private String label(Powers.Thing thing) {
    return thing.subject() >= 0
        ? before.model().facts().label(thing.subject())
        : thing.spot().orElseThrow().tree().label(thing.spot().orElseThrow().object());
  }
}
