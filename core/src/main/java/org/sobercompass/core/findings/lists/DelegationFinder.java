package org.sobercompass.core.findings.lists;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.EnumSet;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.Consumer;
import org.jspecify.annotations.Nullable;
import org.sobercompass.core.admin.Powers;
import org.sobercompass.core.delegation.Delegation;
import org.sobercompass.core.delegation.DirectoryTree;
import org.sobercompass.core.delegation.Origin;
import org.sobercompass.core.delegation.TrusteeKind;
import org.sobercompass.core.delegation.TrusteeNames;
import org.sobercompass.core.findings.Entrusted;
import org.sobercompass.core.findings.Finder;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.findings.FindingContext;
import org.sobercompass.core.findings.FindingKind;
import org.sobercompass.core.findings.ObjectKeys;
import org.sobercompass.core.findings.Weight;
import org.sobercompass.core.findings.details.DelegationDetails;
import org.sobercompass.core.findings.details.DelegationDetails.Given;
import org.sobercompass.core.findings.details.Evidence;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.key.KeyKind;
import org.sobercompass.core.membership.GroupSizes;
import org.sobercompass.core.system.Change;

/**
 * What was delegated in the lists of directories, and should not have been: to a person, to
 * everyone, to very broad groups or to groups with nobody in them, to somebody who does not exist,
 * or without support from above. One trustee is one finding, whatever the number of objects: those
 * are its subjects. Defaults, what was there from the beginning and what came from above are no
 * delegations. O(objects).
 */
public final class DelegationFinder implements Finder {
  /** What it looks for. */
  public static final Set<FindingKind> KINDS =
      EnumSet.of(
          FindingKind.ASSIGNED_TO_EVERYONE,
          FindingKind.ASSIGNED_TO_LARGE_GROUP,
          FindingKind.ASSIGNED_TO_EMPTY_GROUP,
          FindingKind.DIRECT_ASSIGNMENT,
          FindingKind.UNRESOLVED_TRUSTEE,
          FindingKind.UNSUPPORTED_INHERITANCE);

  private static final int FEW = 10;
  private static final int FIRST_OWN_ID = 1000;

  private final FindingContext context;
  private final Powers powers;
  private final TrusteeNames names;
  private final BitSet services;
  private final ObjectKeys keys;
  private final Map<DirectoryTree, Integer> accounts = new HashMap<>();
  private @Nullable Map<String, Integer> counts;

  public DelegationFinder(FindingContext context) {
    this.context = context;
    this.powers = context.assessment.powers();
    this.names = new TrusteeNames(powers.trees());
    this.services = context.services();
    this.keys = new ObjectKeys(powers);
  }

  /** What one trustee was given in one directory that is told under one kind. */
  private record Group(FindingKind kind, DirectoryTree tree, String trustee) {}

  @Override
  public void find(Consumer<Finding> out) {
    Map<Group, List<Delegation>> groups = new LinkedHashMap<>();
    Map<DirectoryTree, Map<Integer, List<Delegation>>> unsupported = new LinkedHashMap<>();
    Entrusted.each(
        context.assessment,
        (tree, one) -> {
          kind(tree, one)
              .ifPresent(group -> groups.computeIfAbsent(group, g -> new ArrayList<>()).add(one));
          if (one.origin() == Origin.CLAIMED) {
            unsupported
                .computeIfAbsent(tree, t -> new TreeMap<>())
                .computeIfAbsent(one.object(), o -> new ArrayList<>())
                .add(one);
          }
        });
    groups.forEach((group, lines) -> out.accept(finding(group, lines)));
    unsupported.forEach(
        (tree, objects) ->
            objects.forEach((object, lines) -> out.accept(claims(tree, object, lines))));
  }

  /** Under which kind a delegation is told, if it is. */
  private Optional<Group> kind(DirectoryTree tree, Delegation one) {
    if (one.denies()) {
      return Optional.empty();
    }
    String sid = one.trustee();
    TrusteeKind holder = names.kind(sid);
    return switch (holder) {
      case PERSON ->
          powers.trees().subject(sid).filter(services::get).isPresent()
              ? Optional.empty()
              : Optional.of(new Group(FindingKind.DIRECT_ASSIGNMENT, tree, sid));
      case BROAD ->
          one.weight() == 0
              ? Optional.empty()
              : Optional.of(new Group(FindingKind.ASSIGNED_TO_EVERYONE, tree, sid));
      case NOBODY -> Optional.of(new Group(FindingKind.UNRESOLVED_TRUSTEE, tree, sid));
      case GROUP -> ofGroup(tree, one);
      case SYSTEM -> Optional.empty();
    };
  }

  private Optional<Group> ofGroup(DirectoryTree tree, Delegation one) {
    String sid = one.trustee();
    if (powers.trees().subject(sid).isEmpty()) {
      return Optional.empty();
    }
    int inside = inside(sid);
    if (inside == 0) {
      return isOfTheDirectory(sid) || !powers.lists().counting(sid).perhaps().isEmpty()
          ? Optional.empty()
          : Optional.of(new Group(FindingKind.ASSIGNED_TO_EMPTY_GROUP, tree, sid));
    }
    return one.weight() > 0 && isBroad(tree, sid, inside)
        ? Optional.of(new Group(FindingKind.ASSIGNED_TO_LARGE_GROUP, tree, sid))
        : Optional.empty();
  }

  /** How many accounts count as a group that is a trustee; of all groups at once. */
  private int inside(String sid) {
    Map<String, Integer> known = counts;
    if (known == null) {
      known = count();
      counts = known;
    }
    return known.getOrDefault(sid, 0);
  }

  private Map<String, Integer> count() {
    Map<String, Integer> found = new HashMap<>();
    int[] sizes = GroupSizes.of(powers.lists().memberships());
    for (int group = 0; group < sizes.length; group++) {
      found.put(powers.trees().sid(context.facts.firstGroup() + group), sizes[group]);
    }
    return found;
  }

  /** Groups that every directory has ([MS-DTYP] 2.4.2.4): their rights are there in advance. */
  private static boolean isOfTheDirectory(String sid) {
    String id = sid.substring(sid.lastIndexOf('-') + 1);
    return sid.startsWith("S-1-5-32-") || (id.length() < 5 && Integer.parseInt(id) < FIRST_OWN_ID);
  }

  private boolean isBroad(DirectoryTree tree, String sid, int inside) {
    int subject = powers.trees().subject(sid).orElse(-1);
    if (context.rules.broad().contains(subject)) {
      return true;
    }
    int all = accounts(tree);
    return all >= FEW && 100L * inside >= (long) context.limits.broadPercent() * all;
  }

  private int accounts(DirectoryTree tree) {
    return accounts.computeIfAbsent(
        tree,
        t -> {
          int count = 0;
          for (int account = 0; account < context.facts.accounts(); account++) {
            boolean here = context.facts.source(account).equals(t.directory());
            count += here && !powers.trees().sid(account).isEmpty() ? 1 : 0;
          }
          return count;
        });
  }

  private Finding finding(Group group, List<Delegation> lines) {
    Given most = most(group.tree, lines);
    int objects = lines.size();
    DelegationDetails details =
        switch (group.kind) {
          case DIRECT_ASSIGNMENT -> new DelegationDetails.ToPerson(most, objects);
          case ASSIGNED_TO_EVERYONE ->
              new DelegationDetails.ToEveryone(
                  most, objects, powers.lists().counting(group.trustee).yes().cardinality());
          case ASSIGNED_TO_LARGE_GROUP ->
              new DelegationDetails.ToMany(
                  most, objects, inside(group.trustee), accounts(group.tree));
          case ASSIGNED_TO_EMPTY_GROUP -> new DelegationDetails.ToEmptyGroup(most, objects);
          default -> new DelegationDetails.ToNobody(most, objects);
        };
    Weight own = Weight.values()[most.weight()];
    Weight weight =
        switch (group.kind) {
          case DIRECT_ASSIGNMENT, ASSIGNED_TO_LARGE_GROUP -> FindingContext.reduced(own);
          case ASSIGNED_TO_EVERYONE -> own;
          default -> Weight.LOW;
        };
    return of(group, lines, weight, details);
  }

  /** The line that gives most, as a sentence needs it. */
  private Given most(DirectoryTree tree, List<Delegation> lines) {
    Delegation worst = worst(tree, lines);
    return new Given(
        names.name(worst.trustee()),
        worst.trustee(),
        worst.may(),
        place(tree, worst.object()),
        tree.directory(),
        worst.weight(),
        below(tree, worst.object()));
  }

  /** The line that gives most, of those the one on most objects, of those the first. */
  private static Delegation worst(DirectoryTree tree, List<Delegation> lines) {
    Delegation worst = lines.get(0);
    for (Delegation line : lines) {
      boolean more =
          line.weight() > worst.weight()
              || (line.weight() == worst.weight()
                  && below(tree, line.object()) > below(tree, worst.object()));
      worst = more ? line : worst;
    }
    return worst;
  }

  private static int below(DirectoryTree tree, int object) {
    return tree.end(object) - object - 1;
  }

  /** The name of an object; empty for the whole directory. */
  private static String place(DirectoryTree tree, int object) {
    return tree.parent(object) < 0 ? "" : tree.label(object);
  }

  private Finding of(
      Group group, List<Delegation> lines, Weight weight, DelegationDetails details) {
    Key cause =
        powers
            .trees()
            .subject(group.trustee)
            .map(context.facts::key)
            .orElseGet(
                () ->
                    new Key(
                        group.kind == FindingKind.ASSIGNED_TO_EVERYONE
                            ? KeyKind.IMPLICIT
                            : KeyKind.ACCOUNT,
                        group.tree.directory(),
                        group.trustee));
    return context.finding(
        group.kind,
        group.tree.directory(),
        cause,
        weight,
        details,
        evidence(group.tree, lines),
        "",
        objects(group.tree, lines),
        FindingContext.ending(removals(group.tree, lines)));
  }

  private List<Key> objects(DirectoryTree tree, List<Delegation> lines) {
    return lines.stream().map(line -> keys.key(tree, line.object())).distinct().sorted().toList();
  }

  private List<? extends Evidence> evidence(DirectoryTree tree, List<Delegation> lines) {
    return lines.stream()
        .limit(FEW)
        .map(
            line ->
                new Evidence.DelegatedOn(
                    tree.directory(),
                    place(tree, line.object()),
                    line.may(),
                    names.name(line.trustee()),
                    line.origin()))
        .toList();
  }

  private List<Change> removals(DirectoryTree tree, List<Delegation> lines) {
    List<Change> changes = new ArrayList<>();
    for (Delegation line : lines) {
      line.entries()
          .forEach(entry -> changes.add(powers.lists().removal(tree, line.object(), entry)));
    }
    return changes;
  }

  private Finding claims(DirectoryTree tree, int object, List<Delegation> lines) {
    Given most = most(tree, lines);
    return context.finding(
        FindingKind.UNSUPPORTED_INHERITANCE,
        "",
        keys.key(tree, object),
        FindingContext.reduced(Weight.values()[most.weight()]),
        new DelegationDetails.Claimed(most, lines.size()),
        evidence(tree, lines),
        "",
        List.of(keys.key(tree, object)),
        FindingContext.ending(removals(tree, lines)));
  }
}
