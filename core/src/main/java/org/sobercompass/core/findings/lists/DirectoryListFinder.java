package org.sobercompass.core.findings.lists;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.EnumSet;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Consumer;
import org.sobercompass.core.admin.NamedPower;
import org.sobercompass.core.admin.NamedPowers;
import org.sobercompass.core.admin.Powers;
import org.sobercompass.core.delegation.AdminAction;
import org.sobercompass.core.delegation.Delegations;
import org.sobercompass.core.delegation.DirectoryTree;
import org.sobercompass.core.delegation.DirectoryTrees;
import org.sobercompass.core.delegation.EntryWords;
import org.sobercompass.core.delegation.Origin;
import org.sobercompass.core.delegation.Origins;
import org.sobercompass.core.delegation.TreePatch;
import org.sobercompass.core.delegation.TrusteeKind;
import org.sobercompass.core.delegation.TrusteeNames;
import org.sobercompass.core.descriptor.Ace;
import org.sobercompass.core.descriptor.AceType;
import org.sobercompass.core.descriptor.Descriptor;
import org.sobercompass.core.descriptor.DsRights;
import org.sobercompass.core.descriptor.WellKnown;
import org.sobercompass.core.findings.Finder;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.findings.FindingContext;
import org.sobercompass.core.findings.FindingKind;
import org.sobercompass.core.findings.ObjectKeys;
import org.sobercompass.core.findings.Weight;
import org.sobercompass.core.findings.details.Evidence;
import org.sobercompass.core.findings.details.ListDetails;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.store.IntList;
import org.sobercompass.core.system.Change;
import org.sobercompass.core.system.remark.ListedEntry;

/**
 * Lists of directories' objects that are not as lists should be: entries that another covers,
 * orders that matter, changes from above that did not arrive, owners who are no administrators.
 * Equal lists below equal lists are looked at once. O(objects + distinct lists x entries).
 */
public final class DirectoryListFinder implements Finder {
  /** What it looks for. */
  public static final Set<FindingKind> KINDS =
      EnumSet.of(
          FindingKind.ENTRY_ORDER,
          FindingKind.INHERITANCE_NOT_APPLIED,
          FindingKind.OWNER_NOT_ADMINISTRATOR,
          FindingKind.REDUNDANT_ASSIGNMENT);

  private final FindingContext context;
  private final Powers powers;
  private final TrusteeNames names;
  private final List<AdminAction> actions;
  private final ObjectKeys keys;

  public DirectoryListFinder(FindingContext context) {
    this.context = context;
    this.powers = context.assessment.powers();
    this.names = new TrusteeNames(powers.trees());
    this.actions = powers.roles().administration().actions();
    this.keys = new ObjectKeys(powers);
  }

  @Override
  public void find(Consumer<Finding> out) {
    for (DirectoryTree tree : powers.trees().all()) {
      new OfTree(tree).find(out);
    }
  }

  /** Which lists are equal, and stand below equal ones. */
  private record Place(int own, int above, int kind) {}

  /** The lists of one directory. */
  private final class OfTree {
    private final DirectoryTree tree;
    private final Origins origins;
    private final Delegations lister;
    private final Map<Place, IntList> places = new LinkedHashMap<>();

    OfTree(DirectoryTree tree) {
      this.tree = tree;
      this.origins = new Origins(tree, context.assessment.accepted(tree.directory()));
      this.lister = new Delegations(tree, origins, actions);
      for (int object = 0; object < tree.size(); object++) {
        int own = tree.descriptorNumber(object);
        if (own >= 0) {
          int parent = tree.parent(object);
          int above = parent < 0 ? -1 : tree.descriptorNumber(parent);
          places
              .computeIfAbsent(new Place(own, above, tree.kind(object)), p -> new IntList())
              .add(object);
        }
      }
    }

    void find(Consumer<Finding> out) {
      places.forEach(
          (place, objects) -> {
            covered(objects, out);
            missed(objects, out);
          });
      Set<Place> ordered = new HashSet<>();
      places.forEach(
          (place, objects) -> {
            boolean first = ordered.add(new Place(place.own, -1, place.kind));
            if (first && !tree.descriptorOf(place.own).isCanonical()) {
              order(objects, out);
            }
          });
      owners(out);
    }

    private Key key(int object) {
      return keys.key(tree, object);
    }

    private List<Key> keys(IntList objects) {
      List<Key> all = new ArrayList<>();
      for (int i = 0; i < objects.size(); i++) {
        all.add(key(objects.get(i)));
      }
      return all.stream().sorted().toList();
    }

    private ListedEntry entry(Ace ace) {
      String rights = new EntryWords(tree.names()).of(ace);
      return new ListedEntry(names.name(ace.trustee()), rights);
    }

    /** Entries added here that another of the same list covers, where nothing is denied. */
    private void covered(IntList objects, Consumer<Finding> out) {
      int object = objects.get(0);
      List<Ace> list = tree.descriptor(object).orElseThrow().entries();
      List<Origin> from = origins.of(object);
      boolean plain =
          list.stream()
              .map(ace -> ace.type().effect())
              .allMatch(e -> e == AceType.Effect.ALLOW || e == AceType.Effect.NONE);
      for (int entry = 0; plain && entry < list.size(); entry++) {
        int by = from.get(entry) == Origin.ADDED ? covering(list, entry) : -1;
        if (by >= 0) {
          Ace ace = list.get(entry);
          List<Change> changes = new ArrayList<>();
          for (int i = 0; i < objects.size(); i++) {
            changes.add(powers.lists().removal(tree, objects.get(i), entry));
          }
          out.accept(
              context.finding(
                  FindingKind.REDUNDANT_ASSIGNMENT,
                  ace.trustee(),
                  key(object),
                  Weight.LOW,
                  new ListDetails.CoveredEntry(tree.label(object), entry(ace), objects.size()),
                  List.of(
                      new Evidence.EntryFrom(Origin.ADDED, entry(ace)),
                      new Evidence.EntryFrom(from.get(by), entry(list.get(by)))),
                  "",
                  keys(objects),
                  FindingContext.ending(changes)));
        }
      }
    }

    /** The number of an entry that gives all that one gives; of two equal ones the earlier. */
    private int covering(List<Ace> list, int entry) {
      Ace ace = list.get(entry);
      for (int other = 0; other < list.size(); other++) {
        boolean mutual = other > entry && covers(ace, list.get(other));
        if (other != entry && covers(list.get(other), ace) && !mutual) {
          return other;
        }
      }
      return -1;
    }

    private static boolean covers(Ace wide, Ace narrow) {
      int mask = DsRights.mapped(narrow.mask());
      boolean rights =
          wide.type().effect() == AceType.Effect.ALLOW
              && narrow.type().effect() == AceType.Effect.ALLOW
              && wide.trustee().equals(narrow.trustee())
              && (DsRights.mapped(wide.mask()) & mask) == mask
              && (wide.object().isEmpty() || wide.object().equals(narrow.object()));
      boolean here = wide.countsHere() || !narrow.countsHere();
      int handed = Ace.CHILDREN | Ace.OBJECTS;
      boolean below =
          (wide.flags() & narrow.flags() & handed) == (narrow.flags() & handed)
              && (!narrow.isHandedOn()
                  || ((wide.inheritedBy().isEmpty()
                          || wide.inheritedBy().equals(narrow.inheritedBy()))
                      && ((wide.flags() & Ace.NEXT_ONLY) == 0
                          || (narrow.flags() & Ace.NEXT_ONLY) != 0)));
      return rights && here && below;
    }

    /** What the list above hands on, and these do not have. */
    private void missed(IntList objects, Consumer<Finding> out) {
      int object = objects.get(0);
      List<Ace> missing = tree.isHandedTo(object) ? origins.missing(object) : List.of();
      if (!missing.isEmpty()) {
        String above = tree.label(tree.parent(object));
        out.accept(
            context.decision(
                FindingKind.INHERITANCE_NOT_APPLIED,
                "",
                key(object),
                Weight.MEDIUM,
                new ListDetails.NotHandedOn(
                    tree.label(object),
                    above,
                    entry(missing.get(0)),
                    missing.size(),
                    objects.size()),
                missing.stream()
                    .limit(FindingContext.LISTED)
                    .map(ace -> new Evidence.MissingEntry(entry(ace)))
                    .toList(),
                "",
                keys(objects)));
      }
    }

    /** Lists out of the usual order, where some account may do other things in the usual one. */
    private void order(IntList objects, Consumer<Finding> out) {
      int object = objects.get(0);
      DirectoryTree usual = TreePatch.inOrder(tree, object);
      BitSet differ = new BitSet();
      List<Evidence> evidence = new ArrayList<>();
      for (AdminAction action : actions) {
        if (action.fits(tree.names(), tree.objectClass(object))) {
          BitSet as = powers.lists().byList(action, new DirectoryTrees.Spot(tree, object)).yes();
          BitSet other =
              powers.lists().byList(action, new DirectoryTrees.Spot(usual, object)).yes();
          BitSet these = (BitSet) as.clone();
          these.xor(other);
          if (!these.isEmpty()) {
            differ.or(these);
            evidence.add(
                new Evidence.ByOrder(these.cardinality(), as.intersects(these), action.name()));
          }
        }
      }
      if (!differ.isEmpty()) {
        out.accept(
            context.decision(
                FindingKind.ENTRY_ORDER,
                "",
                key(object),
                Weight.LOW,
                new ListDetails.Order(tree.label(object), differ.cardinality(), objects.size()),
                evidence,
                "",
                keys(objects)));
      }
    }

    /** Persons who own objects and do not control the directory. */
    private void owners(Consumer<Finding> out) {
      BitSet controlling = controlling();
      BitSet services = context.services();
      Map<Integer, IntList> owned = new HashMap<>();
      for (int object = 0; object < tree.size(); object++) {
        Optional<Descriptor> list = tree.descriptor(object);
        Optional<String> owner = list.flatMap(Descriptor::owner);
        if (owner.isEmpty() || names.kind(owner.get()) != TrusteeKind.PERSON) {
          continue;
        }
        int account = powers.trees().subject(owner.get()).orElseThrow();
        boolean limited =
            list.get().entries().stream()
                .anyMatch(ace -> ace.trustee().equals(WellKnown.OWNER_RIGHTS));
        if (!controlling.get(account) && !services.get(account) && !limited) {
          owned.computeIfAbsent(account, a -> new IntList()).add(object);
        }
      }
      owned.keySet().stream()
          .sorted()
          .forEach(
              account -> out.accept(owner(account, owned.getOrDefault(account, new IntList()))));
    }

    private BitSet controlling() {
      BitSet found = new BitSet();
      for (NamedPower power : NamedPowers.of(powers)) {
        if (power.ofDirectory() && power.id().equals(tree.directory())) {
          for (int trustee : power.trustees()) {
            found.or(context.accounts(trustee));
          }
        }
      }
      return found;
    }

    private Finding owner(int account, IntList objects) {
      List<Evidence> evidence = new ArrayList<>();
      for (int i = 0; i < Math.min(FindingContext.LISTED, objects.size()); i++) {
        evidence.add(new Evidence.OwnerOf(tree.label(objects.get(i)), account));
      }
      int first = objects.get(0);
      int below = tree.end(first) - first - 1;
      return context.decision(
          FindingKind.OWNER_NOT_ADMINISTRATOR,
          tree.directory(),
          context.facts.key(account),
          Weight.MEDIUM,
          new ListDetails.PersonOwns(account, tree.label(first), objects.size(), below),
          evidence,
          "",
          keys(objects));
    }
  }
}
