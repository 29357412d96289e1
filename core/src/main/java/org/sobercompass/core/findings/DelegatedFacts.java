package org.sobercompass.core.findings;

import java.util.HashMap;
import java.util.Map;
import org.sobercompass.core.admin.AdminGrant;
import org.sobercompass.core.admin.Powers;
import org.sobercompass.core.delegation.DirectoryTree;
import org.sobercompass.core.descriptor.Ace;
import org.sobercompass.core.removal.Delegated;
import org.sobercompass.core.store.IntList;
import org.sobercompass.core.system.Change;

/** Weighs removals of entries and admin roles. O(entries of distinct lists) to make. */
final class DelegatedFacts implements Delegated {
  private final Powers powers;
  private final Map<Integer, Integer> carried = new HashMap<>();

  DelegatedFacts(Powers powers) {
    this.powers = powers;
    for (DirectoryTree tree : powers.tokens().trees()) {
      for (int d = 0; d < tree.descriptors(); d++) {
        for (Ace ace : tree.descriptorOf(d).entries()) {
          if (!ace.isInherited() && ace.allows()) {
            powers
                .tokens()
                .subject(ace.trustee())
                .ifPresent(s -> carried.merge(s, 1, Integer::sum));
          }
        }
      }
    }
    long asOf = powers.model().asOf().getEpochSecond();
    for (AdminGrant grant : powers.roles().administration().grants()) {
      if (grant.subject() >= 0 && grant.activeAt(asOf)) {
        carried.merge(grant.subject(), 1, Integer::sum);
      }
    }
  }

  @Override
  public int accounts(Change.OfDirectory removal) {
    return removal.fold(this::ofRole, this::ofEntry);
  }

  private int ofRole(Change.AdminRoleRemoved role) {
    int subject = powers.roles().administration().grants().get(role.grant()).subject();
    IntList found = new IntList();
    powers.model().widest().walker().accounts(subject, found);
    return found.size();
  }

  private int ofEntry(Change.EntryRemoved entry) {
    DirectoryTree tree = tree(powers, entry);
    String sid =
        tree.descriptor(entry.object()).orElseThrow().entries().get(entry.entry()).trustee();
    return powers.tokens().accounts(sid).cardinality();
  }

  @Override
  public int carried(int subject) {
    return carried.getOrDefault(subject, 0);
  }

  @Override
  public String key(Change.OfDirectory removal) {
    return removal.fold(
        role ->
            AdminGrantKeys.of(powers.roles().administration(), role.grant()).text()
                + " "
                + role.grant(),
        entry -> {
          DirectoryTree tree = tree(powers, entry);
          return tree.directory() + " " + tree.dnForm(entry.object()) + " " + entry.entry();
        });
  }

  /** The tree in which an entry stands. */
  static DirectoryTree tree(Powers powers, Change.EntryRemoved entry) {
    return tree(powers, entry.directory());
  }

  /** The tree of a directory. */
  static DirectoryTree tree(Powers powers, String directory) {
    return powers.tokens().trees().stream()
        .filter(tree -> tree.directory().equals(directory))
        .findFirst()
        .orElseThrow();
  }
}
