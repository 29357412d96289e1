package org.sobercompass.core.scope;

import java.nio.charset.StandardCharsets;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.BitSet;
import java.util.Deque;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.IntStream;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.filter.Truth;
import org.sobercompass.core.membership.Memberships;
import org.sobercompass.core.membership.Visibility;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.core.store.IntList;
import org.sobercompass.core.store.NumberSet;
import org.sobercompass.core.store.Texts;
import org.sobercompass.core.system.Verdict;

/**
 * The admin scopes of a workspace over memberships: who is in which, and by which line. Frozen and
 * thread-safe. For each line of each scope one bit an object, or less where few are in it.
 */
public final class Scopes {
  private static final NumberSet NONE = NumberSet.of(new BitSet());

  private final Memberships memberships;
  private final Facts facts;
  private final List<AdminScope> scopes;
  private final Map<String, Integer> numbers = new HashMap<>();
  private final NumberSet[] inside;
  private final NumberSet[] widest;
  private final List<Map<ScopeItem, NumberSet>> lines = new ArrayList<>();
  private final int[] undefined;
  private final List<Problem> problems = new ArrayList<>();

  /**
   * Works all scopes out. O(scopes x lines x objects).
   *
   * @throws org.sobercompass.core.problem.BadInputException for scopes in a circle, and groups of
   *     which is not said what they stand for
   */
  public Scopes(Memberships memberships, List<AdminScope> scopes) {
    this.memberships = memberships;
    this.facts = memberships.graph().facts();
    this.scopes = List.copyOf(scopes);
    this.inside = new NumberSet[scopes.size()];
    this.widest = new NumberSet[scopes.size()];
    this.undefined = new int[scopes.size()];
    Problems wrong = new Problems();
    for (int scope = 0; scope < scopes.size(); scope++) {
      numbers.put(scopes.get(scope).id(), scope);
      lines.add(new HashMap<>());
    }
    Arrays.fill(inside, NONE);
    Arrays.fill(widest, NONE);
    Memberships.Walker walker = memberships.walker();
    for (int scope : order(wrong)) {
      work(scope, walker, wrong);
    }
    wrong.throwIfErrors();
    problems.addAll(wrong.list());
  }

  /** Scopes after those they name; a circle is told, with all that are in it. */
  private List<Integer> order(Problems wrong) {
    List<Integer> done = new ArrayList<>();
    BitSet finished = new BitSet();
    for (int first = 0; first < scopes.size(); first++) {
      Deque<Integer> open = new ArrayDeque<>(List.of(first));
      while (!open.isEmpty()) {
        int scope = open.peek();
        Optional<Integer> next = finished.get(scope) ? Optional.empty() : waitsFor(scope, finished);
        if (next.isPresent() && open.contains(next.get())) {
          circle(open, next.get(), wrong);
          return List.of();
        } else if (next.isPresent()) {
          open.push(next.get());
        } else {
          open.pop();
          if (!finished.get(scope)) {
            finished.set(scope);
            done.add(scope);
          }
        }
      }
    }
    return done;
  }

  private Optional<Integer> waitsFor(int scope, BitSet finished) {
    List<ScopeItem> all = new ArrayList<>(scopes.get(scope).include());
    all.addAll(scopes.get(scope).except());
    for (ScopeItem item : all) {
      if (item instanceof ScopeItem.Other other) {
        Integer number = numbers.get(other.scope());
        if (number != null && !finished.get(number)) {
          return Optional.of(number);
        }
      }
    }
    return Optional.empty();
  }

  private void circle(Deque<Integer> open, int closing, Problems wrong) {
    List<String> chain = new ArrayList<>();
    for (int scope : open) {
      chain.add(0, scopes.get(scope).id());
      if (scope == closing) {
        break;
      }
    }
    chain.add(scopes.get(closing).id());
    wrong.error(
        scopes.get(closing).place(),
        "the scope is made of itself: " + String.join(" -> ", chain),
        "scopes that do not name each other in a circle");
  }

  /** Objects that are in something for sure, and those that are surely or perhaps in it. */
  private record Objects(BitSet sure, BitSet any) {
    static Objects of(BitSet certain) {
      return new Objects(certain, (BitSet) certain.clone());
    }
  }

  private void work(int scope, Memberships.Walker walker, Problems wrong) {
    Objects all = Objects.of(new BitSet());
    for (ScopeItem item : scopes.get(scope).include()) {
      Objects own = objects(scope, item, walker, wrong);
      lines.get(scope).put(item, NumberSet.of(own.sure));
      all.sure.or(own.sure);
      all.any.or(own.any);
    }
    for (ScopeItem item : scopes.get(scope).except()) {
      Objects own = objects(scope, item, walker, wrong);
      lines.get(scope).put(item, NumberSet.of(own.sure));
      all.sure.andNot(own.any);
      all.any.andNot(own.sure);
    }
    NumberSet sure = shared(scope, NumberSet.of(all.sure));
    NumberSet any = NumberSet.of(all.any);
    inside[scope] = sure;
    widest[scope] = any.equals(sure) ? sure : any;
  }

  /** The same set as that of one of the lines, where it is equal: most scopes have one line. */
  private NumberSet shared(int scope, NumberSet set) {
    return lines.get(scope).values().stream().filter(set::equals).findFirst().orElse(set);
  }

  private Objects objects(int scope, ScopeItem item, Memberships.Walker walker, Problems wrong) {
    BitSet objects = new BitSet();
    if (item instanceof ScopeItem.Other other) {
      Integer number = numbers.get(other.scope());
      Objects none = Objects.of(new BitSet());
      if (number != null) {
        inside[number].setIn(none.sure);
        widest[number].setIn(none.any);
      }
      return none;
    }
    if (item instanceof ScopeItem.Subtree subtree) {
      byte[] top = subtree.dnForm().getBytes(StandardCharsets.UTF_8);
      byte[] below = ("," + subtree.dnForm()).getBytes(StandardCharsets.UTF_8);
      Texts forms = facts.arrays().dnForm();
      for (int s = 0; s < facts.subjects(); s++) {
        objects.set(s, forms.equalsBytes(s, top) || forms.endsWith(s, below));
      }
      return meant(Objects.of(objects), subtree.groups(), item.place(), walker, wrong);
    }
    if (item instanceof ScopeItem.Rule rule) {
      BitSet perhaps = new BitSet();
      for (int s = 0; s < facts.subjects(); s++) {
        if (facts.source(s).equals(rule.directory())) {
          Truth truth = rule.filter().test(new Visibility.SubjectValues(facts, s));
          objects.set(s, truth == Truth.TRUE);
          perhaps.set(s, truth != Truth.FALSE);
          undefined[scope] += truth == Truth.UNDEFINED ? 1 : 0;
        }
      }
      if (perhaps.isEmpty()) {
        problems.add(
            Problem.warning(item.place(), "the rule fits nobody", "a filter that fits somebody"));
      }
      return meant(new Objects(objects, perhaps), rule.groups(), item.place(), walker, wrong);
    }
    ScopeItem.Listed listed = (ScopeItem.Listed) item;
    listed.subjects().forEach(objects::set);
    return meant(Objects.of(objects), listed.groups(), item.place(), walker, wrong);
  }

  /** Groups among the objects stand for what is said of them. */
  private Objects meant(
      Objects objects,
      Optional<GroupMeaning> meaning,
      Place place,
      Memberships.Walker walker,
      Problems wrong) {
    BitSet groups = groups(objects.any);
    if (groups.isEmpty()) {
      return objects;
    }
    if (meaning.isEmpty()) {
      wrong.error(
          place,
          "the group "
              + facts.label(groups.nextSetBit(0))
              + " comes in, and it is not said what it stands for",
          "groups: object, members or both");
      return objects;
    }
    return new Objects(
        meant(objects.sure, meaning.get(), walker, true),
        meant(objects.any, meaning.get(), walker, false));
  }

  private BitSet groups(BitSet objects) {
    int first = facts.firstGroup();
    int end = first + facts.groups();
    BitSet groups = new BitSet();
    for (int g = objects.nextSetBit(first); g >= 0 && g < end; g = objects.nextSetBit(g + 1)) {
      groups.set(g);
    }
    return groups;
  }

  private BitSet meant(
      BitSet objects, GroupMeaning meant, Memberships.Walker walker, boolean surely) {
    BitSet groups = groups(objects);
    BitSet out = (BitSet) objects.clone();
    if (!meant.object()) {
      out.andNot(groups);
    }
    IntList accounts = new IntList();
    for (int g = groups.nextSetBit(0); g >= 0; g = groups.nextSetBit(g + 1)) {
      if (meant.members()) {
        accounts.clear();
        if (surely) {
          walker.accounts(g, accounts);
        } else {
          walker.candidates(g, accounts);
        }
        accounts.setIn(out);
      }
      if (meant.nested()) {
        nested(g, surely, out);
      }
    }
    return out;
  }

  private void nested(int group, boolean surely, BitSet into) {
    BitSet seen = new BitSet();
    Deque<Integer> open = new ArrayDeque<>(List.of(group));
    seen.set(group);
    while (!open.isEmpty()) {
      int at = open.remove();
      for (int i = 0; i < memberships.graph().downCount(at); i++) {
        int member = memberships.graph().downMember(at, i);
        boolean counts = !surely || memberships.graph().downVia(at, i).isSure();
        if (counts && facts.kind(member) == SubjectKind.GROUP && !seen.get(member)) {
          seen.set(member);
          into.set(member);
          open.add(member);
        }
      }
    }
  }

  /** What was found while working them out: rules that fit nobody. */
  public List<Problem> problems() {
    return problems;
  }

  /** The scopes, by number. */
  public List<AdminScope> all() {
    return scopes;
  }

  /** Whether an object is surely in a scope; everything is in {@link AdminGrant#EVERYTHING}. */
  public boolean contains(int scope, int object) {
    return scope < 0 || inside[scope].contains(object);
  }

  /** Whether an object is in a scope: UNDECIDED where a rule is undefined for it. */
  public Verdict holds(int scope, int object) {
    return contains(scope, object)
        ? Verdict.YES
        : widest[scope].contains(object) ? Verdict.UNDECIDED : Verdict.NO;
  }

  /** The objects that are surely or perhaps in a scope; the caller's own. */
  public BitSet widest(int scope) {
    if (scope >= 0) {
      return widest[scope].bits();
    }
    BitSet all = new BitSet();
    all.set(0, facts.subjects());
    return all;
  }

  /** The objects that are surely in a scope. */
  public NumberSet objects(int scope) {
    return inside[scope];
  }

  /** For how many objects a filter of it was undefined: they are perhaps in it. */
  public int undefined(int scope) {
    return undefined[scope];
  }

  /** Whether a line of a scope, that includes or excepts, is about an object. */
  public boolean isOf(int scope, ScopeItem line, int object) {
    return lines.get(scope).getOrDefault(line, NONE).contains(object);
  }

  /** The lines by which an object is in a scope, in words. */
  public List<String> reasons(int scope, int object) {
    return scopes.get(scope).include().stream()
        .filter(item -> lines.get(scope).getOrDefault(item, NONE).contains(object))
        .map(ScopeItem::words)
        .toList();
  }

  /** The exception that keeps an object out of a scope that it would be in. */
  public Optional<String> excepted(int scope, int object) {
    return reasons(scope, object).isEmpty()
        ? Optional.empty()
        : scopes.get(scope).except().stream()
            .filter(item -> lines.get(scope).getOrDefault(item, NONE).contains(object))
            .map(ScopeItem::words)
            .findFirst();
  }

  /** The scopes an object is in. */
  public List<Integer> of(int object) {
    return IntStream.range(0, scopes.size())
        .filter(scope -> inside[scope].contains(object))
        .boxed()
        .toList();
  }
}
