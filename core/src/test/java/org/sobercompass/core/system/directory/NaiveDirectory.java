package org.sobercompass.core.system.directory;

import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import java.util.UUID;
import org.sobercompass.core.delegation.AdminAction;
import org.sobercompass.core.delegation.DsNames;
import org.sobercompass.core.delegation.Requirement;
import org.sobercompass.core.descriptor.Ace;
import org.sobercompass.core.descriptor.AceType;
import org.sobercompass.core.descriptor.Descriptor;
import org.sobercompass.core.descriptor.DsRights;
import org.sobercompass.core.descriptor.WellKnown;
import org.sobercompass.core.system.Verdict;

/**
 * The access check of [MS-ADTS] 5.1.3.3 as a plain program: one right after the other, entry by
 * entry; what is not known is tried both ways.
 */
final class NaiveDirectory {
  private final RandomDirectory world;

  NaiveDirectory(RandomDirectory world) {
    this.world = world;
  }

  Verdict decide(int account, Set<Integer> subjects, int right, int object) {
    AdminAction action = world.actions.get(right);
    String kind = world.tree.objectClass(object);
    if (!action.on().isEmpty() && !action.on().contains(kind)) {
      return Verdict.NO;
    }
    return need(subjects, action.need(), object, kind);
  }

  private Verdict need(Set<Integer> subjects, Requirement need, int object, String kind) {
    if (need instanceof Requirement.All all) {
      Verdict worst = Verdict.YES;
      for (Requirement part : all.parts()) {
        worst = worst.and(need(subjects, part, object, kind));
      }
      return worst;
    }
    if (need instanceof Requirement.Any any) {
      Verdict best = Verdict.NO;
      for (Requirement part : any.parts()) {
        best = best.or(need(subjects, part, object, kind));
      }
      return best;
    }
    if (need instanceof Requirement.At at) {
      int above = world.tree.parent(object);
      return above < 0 ? Verdict.NO : need(subjects, at.need(), above, kind);
    }
    if (need instanceof Requirement.Simple simple) {
      return bits(subjects, object, simple.mask(), List.of());
    }
    DsNames names = world.tree.names();
    UUID own = names.objectClass(world.tree.objectClass(object)).orElseThrow().id();
    if (need instanceof Requirement.Confidential) {
      UUID secret = names.attribute("secret").orElseThrow().id();
      int mask = DsRights.READ_PROPERTY | DsRights.CONTROL_ACCESS;
      return bits(subjects, object, mask, List.of(secret, own));
    }
    if (need instanceof Requirement.Attribute attribute) {
      DsNames.AttributeType type = names.attribute(attribute.name()).orElseThrow();
      List<UUID> types = new ArrayList<>(List.of(type.id(), own));
      type.set().ifPresent(types::add);
      return bits(subjects, object, attribute.mask(), types);
    }
    if (need instanceof Requirement.Control control) {
      return names.right(control.name()).isEmpty()
          ? Verdict.UNDECIDED
          : bits(
              subjects,
              object,
              DsRights.CONTROL_ACCESS,
              List.of(names.right(control.name()).get().id()));
    }
    Requirement.Child child = (Requirement.Child) need;
    String made = child.objectClass().isEmpty() ? kind : child.objectClass();
    UUID id = names.objectClass(made).orElseThrow().id();
    return bits(subjects, object, child.mask(), List.of(id));
  }

  private Verdict bits(Set<Integer> subjects, int object, int mask, List<UUID> types) {
    Verdict worst = Verdict.YES;
    for (int bit = 1; bit > 0; bit <<= 1) {
      if ((mask & bit) != 0) {
        worst = worst.and(bit(subjects, object, bit, types));
      }
    }
    return worst;
  }

  /** One right: in each world in which every entry that is not known gives, takes or is not. */
  private Verdict bit(Set<Integer> subjects, int object, int bit, List<UUID> types) {
    if (world.tree.descriptor(object).isEmpty()) {
      return Verdict.UNDECIDED;
    }
    Descriptor list = world.tree.descriptor(object).get();
    if (list.dacl().isEmpty()) {
      return Verdict.YES;
    }
    Set<Verdict> seen = new TreeSet<>();
    Set<String> token = world.sids(subjects);
    boolean ofOwner = bit == DsRights.READ_CONTROL || bit == DsRights.WRITE_DAC;
    boolean ownerRights = false;
    for (Ace ace : list.entries()) {
      ownerRights |=
          (ace.flags() & Ace.BELOW_ONLY) == 0 && ace.trustee().equals(WellKnown.OWNER_RIGHTS);
    }
    if (ofOwner && !ownerRights && list.owner().isPresent()) {
      if (token.contains(list.owner().get())) {
        return Verdict.YES;
      }
      if (world.isStranger(list.owner().get())) {
        seen.add(Verdict.YES);
      }
    }
    walk(list, 0, token, subjects, object, bit, types, seen);
    return seen.size() == 1 ? seen.iterator().next() : Verdict.UNDECIDED;
  }

  private void walk(
      Descriptor list,
      int from,
      Set<String> token,
      Set<Integer> subjects,
      int object,
      int bit,
      List<UUID> types,
      Set<Verdict> seen) {
    for (int i = from; i < list.entries().size(); i++) {
      Ace ace = list.entries().get(i);
      if ((ace.flags() & Ace.BELOW_ONLY) != 0) {
        continue;
      }
      if (ace.type() == AceType.UNKNOWN) {
        seen.add(Verdict.YES);
        seen.add(Verdict.NO);
        return;
      }
      boolean part = ace.object().isEmpty() || types.contains(ace.object().get());
      boolean stranger = world.isStranger(ace.trustee());
      if (!part || (ace.mask() & bit) == 0 || !(stranger || is(ace, token, subjects, object))) {
        continue;
      }
      boolean allows = ace.type() == AceType.ALLOW || ace.type() == AceType.ALLOW_OBJECT;
      boolean denies = ace.type() == AceType.DENY || ace.type() == AceType.DENY_OBJECT;
      boolean gives =
          allows
              || ace.type() == AceType.ALLOW_CONDITIONAL
              || ace.type() == AceType.ALLOW_CONDITIONAL_OBJECT;
      seen.add(gives ? Verdict.YES : Verdict.NO);
      if ((allows || denies) && !stranger) {
        return;
      }
    }
    seen.add(Verdict.NO);
  }

  private boolean is(Ace ace, Set<String> token, Set<Integer> subjects, int object) {
    if (!ace.trustee().equals(WellKnown.SELF)) {
      return token.contains(ace.trustee());
    }
    return subjects.stream()
        .anyMatch(
            s ->
                s < RandomDirectory.ACCOUNTS + RandomDirectory.GROUPS && world.object(s) == object);
  }
}
