package org.sobercompass.core.delegation;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import org.sobercompass.core.descriptor.AccessCheck;
import org.sobercompass.core.descriptor.Ace;
import org.sobercompass.core.descriptor.AceType;
import org.sobercompass.core.descriptor.Descriptor;
import org.sobercompass.core.descriptor.DsRights;
import org.sobercompass.core.descriptor.Target;
import org.sobercompass.core.system.Verdict;

/**
 * Which admin actions some entries make possible by themselves: each action is tried on an object
 * of its class that has these entries and no others. Thread-safe.
 */
public final class EntryActions {
  private static final List<String> USUAL =
      List.of("user", "group", "computer", "organizationalUnit");

  private final DsNames names;
  private final List<AdminAction> actions;

  /** Of these actions. */
  public EntryActions(DsNames names, List<AdminAction> actions) {
    this.names = names;
    this.actions =
        actions.stream().sorted(Comparator.comparingInt(AdminAction::weight).reversed()).toList();
  }

  /** The entries as an object here has them, and as one of a class below has them. */
  private record Lists(Descriptor own, Descriptor above) {}

  /**
   * All actions that the entries make possible, the strongest first.
   *
   * @param here the class of the object that has them
   */
  public List<AdminAction> possible(List<Ace> entries, String here) {
    return actions.stream().filter(action -> isPossible(action, entries, here)).toList();
  }

  /** Which rights of an entry some actions say in full: on the same part, or on the whole. */
  public int covered(Ace ace, List<AdminAction> said) {
    int covered = 0;
    for (AdminAction action : said) {
      covered |= covered(ace, action.need());
    }
    return covered;
  }

  private int covered(Ace ace, Requirement need) {
    if (need instanceof Requirement.All all) {
      return all.parts().stream().mapToInt(part -> covered(ace, part)).reduce(0, (a, b) -> a | b);
    }
    if (need instanceof Requirement.Any any) {
      return any.parts().stream().mapToInt(part -> covered(ace, part)).reduce(0, (a, b) -> a | b);
    }
    if (need instanceof Requirement.At at) {
      return covered(ace, at.need());
    }
    if (need instanceof Requirement.Simple simple) {
      return ace.object().isEmpty() ? simple.mask() : 0;
    }
    Optional<UUID> part =
        need instanceof Requirement.Attribute attribute
            ? names.attribute(attribute.name()).map(DsNames.AttributeType::id)
            : need instanceof Requirement.Control control
                ? names.right(control.name()).map(DsNames.ControlRight::id)
                : need instanceof Requirement.Child child && !child.objectClass().isEmpty()
                    ? names.objectClass(child.objectClass()).map(DsNames.ObjectClass::id)
                    : Optional.empty();
    boolean own = need instanceof Requirement.Child child && child.objectClass().isEmpty();
    if (ace.object().isEmpty() || !(own || ace.object().equals(part))) {
      return 0;
    }
    return need instanceof Requirement.Attribute attribute
        ? attribute.mask()
        : need instanceof Requirement.Child child
            ? child.mask()
            : DsRights.CONTROL_ACCESS | DsRights.SELF;
  }

  /** Whether what one need asks is contained in what another asks. */
  private static boolean contains(Requirement large, Requirement small) {
    if (small instanceof Requirement.All all) {
      return all.parts().stream().allMatch(part -> contains(large, part));
    }
    if (small instanceof Requirement.Any any) {
      return any.parts().stream().anyMatch(part -> contains(large, part));
    }
    if (!(large instanceof Requirement.Simple simple)) {
      return false;
    }
    return small instanceof Requirement.Attribute a
        ? (simple.mask() & a.mask()) == a.mask()
        : small instanceof Requirement.Child c
            ? (simple.mask() & c.mask()) == c.mask()
            : small instanceof Requirement.Control && simple.mask() == DsRights.CONTROL_ACCESS;
  }

  /** The actions, the strongest first; of full control nothing else is said. */
  List<AdminAction> actions(List<Ace> entries, String here) {
    Set<AdminAction> found = new LinkedHashSet<>(possible(entries, here));
    List<AdminAction> before = List.copyOf(found);
    found.removeIf(
        small ->
            before.stream()
                .anyMatch(large -> large != small && contains(large.need(), small.need())));
    Set<Requirement> needs = new LinkedHashSet<>();
    found.forEach(action -> needs.add(action.need()));
    found.removeIf(
        action ->
            action.need() instanceof Requirement.Any any
                && any.parts().stream().anyMatch(needs::contains));
    Optional<AdminAction> all = found.stream().filter(a -> isEverything(a.need())).findFirst();
    return all.map(List::of).orElseGet(() -> List.copyOf(found));
  }

  private static boolean isEverything(Requirement need) {
    return need instanceof Requirement.Simple simple && simple.mask() == DsRights.ALL;
  }

  private boolean isPossible(AdminAction action, List<Ace> entries, String here) {
    Descriptor own = list(entries.stream().filter(Ace::countsHere).toList());
    if (action.fits(names, here)
        && meets(action.need(), new Lists(own, list(List.of())), here, here)) {
      return true;
    }
    for (String kind : action.on().isEmpty() ? USUAL : action.on()) {
      Descriptor above = list(handedTo(entries, "organizationalUnit", true));
      Descriptor below = list(handedTo(entries, kind, false));
      if (!below.entries().isEmpty() && meets(action.need(), new Lists(below, above), kind, kind)) {
        return true;
      }
    }
    return false;
  }

  /** What an object of a class below gets of these entries; with those here for what is above. */
  private List<Ace> handedTo(List<Ace> entries, String kind, boolean andHere) {
    Optional<UUID> id = names.objectClass(kind).map(DsNames.ObjectClass::id);
    List<Ace> out = new ArrayList<>();
    for (Ace ace : entries) {
      boolean handed =
          ace.isHandedOn() && (ace.inheritedBy().isEmpty() || ace.inheritedBy().equals(id));
      if (handed || (andHere && ace.countsHere())) {
        out.add(ace);
      }
    }
    return out;
  }

  /**
   * As a list that counts where it is, with what denies turned to what allows: what it is about.
   */
  private static Descriptor list(List<Ace> entries) {
    List<Ace> plain = new ArrayList<>();
    for (Ace ace : entries) {
      AceType type = ace.object().isPresent() ? AceType.ALLOW_OBJECT : AceType.ALLOW;
      if (ace.type() != AceType.UNKNOWN) {
        plain.add(Ace.of(type, 0, ace.mask(), "").on(ace.object(), Optional.empty()));
      }
    }
    return new Descriptor(
        0, Optional.empty(), Optional.empty(), Optional.of(plain), Optional.empty());
  }

  private boolean meets(Requirement need, Lists lists, String kind, String childClass) {
    if (need instanceof Requirement.All all) {
      return all.parts().stream().allMatch(part -> meets(part, lists, kind, childClass));
    }
    if (need instanceof Requirement.Any any) {
      return any.parts().stream().anyMatch(part -> meets(part, lists, kind, childClass));
    }
    if (need instanceof Requirement.At at) {
      Lists moved = new Lists(lists.above, lists.above);
      return meets(at.need(), moved, "organizationalUnit", childClass);
    }
    if (need instanceof Requirement.Confidential) {
      return names.attributes().stream()
          .filter(DsNames.AttributeType::confidential)
          .anyMatch(a -> asks(lists, confidential(a, kind)));
    }
    Requirement resolved = Rules.ofClass(need, childClass);
    return Rules.target(names, resolved, kind).filter(t -> asks(lists, t)).isPresent();
  }

  private Target confidential(DsNames.AttributeType attribute, String kind) {
    int mask = DsRights.READ_PROPERTY | DsRights.CONTROL_ACCESS;
    return Rules.property(names, mask, attribute, kind);
  }

  private static boolean asks(Lists lists, Target target) {
    return AccessCheck.decide(lists.own, sid -> Verdict.YES, target) == Verdict.YES;
  }
}
