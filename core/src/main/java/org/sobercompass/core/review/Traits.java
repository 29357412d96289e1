package org.sobercompass.core.review;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.EnumMap;
import java.util.EnumSet;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.Route;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.findings.FindingKind;
import org.sobercompass.core.findings.Mend;
import org.sobercompass.core.findings.details.Evidence;
import org.sobercompass.core.key.KeyKind;
import org.sobercompass.core.review.ReviewItem.Trait;
import org.sobercompass.core.store.IntList;
import org.sobercompass.core.system.Change;
import org.sobercompass.core.system.Grant;

/**
 * Which findings each item is a part of: by its cause, by what ends it, by a route that shows it.
 * Worked out once for all findings; O(findings x their routes). Not thread-safe.
 */
final class Traits {
  private static final Map<FindingKind, Trait> KINDS = new EnumMap<>(FindingKind.class);

  static {
    KINDS.put(FindingKind.SEPARATION_OF_DUTIES, Trait.CONFLICTING);
    KINDS.put(FindingKind.UNUSED_RIGHTS, Trait.UNUSED);
    KINDS.put(FindingKind.RARELY_USED_ROLE, Trait.UNUSED);
    KINDS.put(FindingKind.PEER_OUTLIER, Trait.UNLIKE_PEERS);
    for (FindingKind kind :
        List.of(
            FindingKind.DISABLED_ACCOUNT,
            FindingKind.EXPIRED_ACCOUNT,
            FindingKind.LOCKED_ACCOUNT,
            FindingKind.DORMANT_ACCOUNT,
            FindingKind.UNRESOLVED_SUBJECT,
            FindingKind.UNRESOLVED_TRUSTEE,
            FindingKind.ASSIGNED_TO_EMPTY_GROUP)) {
      KINDS.put(kind, Trait.HOLDER_GONE);
    }
    KINDS.put(FindingKind.DIRECT_ASSIGNMENT, Trait.BY_NAME);
    KINDS.put(FindingKind.DIRECT_ENTRY, Trait.BY_NAME);
    KINDS.put(FindingKind.ASSIGNED_TO_EVERYONE, Trait.WIDE);
    KINDS.put(FindingKind.ASSIGNED_TO_LARGE_GROUP, Trait.WIDE);
    KINDS.put(FindingKind.WRITABLE_BY_EVERYONE, Trait.WIDE);
    KINDS.put(FindingKind.READABLE_BY_EVERYONE, Trait.WIDE);
  }

  /** What is said of an account as such. */
  private static final Set<FindingKind> OF_ACCOUNTS =
      EnumSet.of(
          FindingKind.DISABLED_ACCOUNT,
          FindingKind.EXPIRED_ACCOUNT,
          FindingKind.LOCKED_ACCOUNT,
          FindingKind.DORMANT_ACCOUNT,
          FindingKind.PEER_OUTLIER);

  private static final int CHUNK = 100;

  private final Facts facts;
  private final Map<String, Integer> grants = new HashMap<>();
  private final List<Finding> findings;

  /** By item the numbers of its findings, ascending, the worst first. */
  private final Map<Object, IntList> byItem = new HashMap<>();

  /** How many findings are noted. */
  private int noted;

  private final Map<Object, Boolean> ending = new HashMap<>();

  /** What an item is known by: a grant of a system, or a membership. */
  private record Of(int system, int grant) {}

  private record Listed(int member, int group) {}

  Traits(AccessModel model, List<Finding> findings) {
    this.facts = model.facts();
    for (SystemView view : model.systems()) {
      int[] number = {0};
      view.assigned()
          .forEach(grant -> grants.putIfAbsent(view.id() + " " + grant.id(), number[0]++));
    }
    this.findings = findings.stream().sorted(Finding.WORST_FIRST).toList();
    model
        .bulk()
        .inChunksOf(CHUNK)
        .<List<Set<Object>>>each(
            findings.size(),
            (asker, range) -> {
              List<Set<Object>> items = new ArrayList<>();
              for (int number = range.from(); number < range.to(); number++) {
                items.add(items(model, this.findings.get(number)));
              }
              return items;
            },
            items -> items.forEach(this::put));
  }

  /** Whatever a finding is about; its routes are looked up and not kept. */
  private Set<Object> items(AccessModel model, Finding finding) {
    Set<Object> items = new LinkedHashSet<>();
    cause(model, finding).ifPresent(items::add);
    finding.changes().forEach(change -> items.add(key(change)));
    for (Evidence shown : finding.found().evidenceOnce()) {
      if (shown.system() >= 0) {
        shown.route().ifPresent(route -> route(shown.system(), route, items));
      }
    }
    return items;
  }

  /** What is given by name is to be given to a group instead: taking it away alone is no advice. */
  private static boolean isEnding(Finding finding) {
    return finding.kind().mend() == Mend.REVERSIBLE && KINDS.get(finding.kind()) != Trait.BY_NAME;
  }

  private Optional<Object> cause(AccessModel model, Finding finding) {
    Integer grant =
        finding.cause().kind() == KeyKind.ASSIGNMENT
            ? grants.get(finding.cause().source() + " " + finding.cause().id())
            : null;
    return grant == null
        ? Optional.empty()
        : model.system(finding.cause().source()).map(view -> new Of(view.number(), grant));
  }

  private static void route(int system, Route route, Set<Object> into) {
    into.add(new Of(system, route.grant()));
    for (int i = 0; i + 1 < route.subjects().size(); i++) {
      into.add(new Listed(route.subjects().get(i), route.subjects().get(i + 1)));
    }
  }

  /** Notes the items of the next finding. */
  private void put(Set<Object> items) {
    items.forEach(item -> byItem.computeIfAbsent(item, k -> new IntList()).add(noted));
    Finding finding = findings.get(noted);
    finding
        .changes()
        .forEach(change -> ending.merge(key(change), isEnding(finding), Boolean::logicalOr));
    noted++;
  }

  private static Object key(Change change) {
    return change.fold(
        moved ->
            moved.byKind(
                added -> new Listed(added.member(), added.group()),
                removed -> new Listed(removed.member(), removed.group())),
        own ->
            own.byKind(
                added -> added,
                removed -> new Of(removed.system(), removed.grant()),
                redefined -> redefined),
        account -> account);
  }

  /**
   * The findings that an item is a part of, the worst first. What is said of an account as such is
   * told with what that account is given itself, not with what its groups are given.
   *
   * @param subject who has the item
   */
  List<Finding> findings(List<Change> item, int subject) {
    BitSet numbers = new BitSet();
    for (Change one : item) {
      IntList some = byItem.get(key(one));
      if (some != null) {
        some.setIn(numbers);
      }
    }
    return numbers.stream()
        .mapToObj(findings::get)
        .filter(
            finding ->
                !OF_ACCOUNTS.contains(finding.kind())
                    || (subject >= 0 && finding.subjects().contains(facts.key(subject))))
        .toList();
  }

  /** Whether a finding says that taking it away ends it, and that this can be undone. */
  boolean ends(List<Change> item) {
    return item.stream().anyMatch(one -> ending.getOrDefault(key(one), false));
  }

  /** What findings make an item unusual. */
  static Set<Trait> of(List<Finding> findings) {
    Set<Trait> traits = EnumSet.noneOf(Trait.class);
    findings.forEach(f -> traits.add(KINDS.getOrDefault(f.kind(), Trait.OTHER_FINDING)));
    return traits;
  }

  /** Whether a grant gives the most that can be had. */
  static boolean isPowerful(SystemView view, Grant grant) {
    var role = view.system().roles().get(grant.role());
    for (int right = 0; right < view.rights().size(); right++) {
      if (role.allows(right) && view.rights().isStrongest(right)) {
        return true;
      }
    }
    return false;
  }
}
