package org.sobercompass.core.admin;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.delegation.DirectoryTree;
import org.sobercompass.core.descriptor.AccessCheck;
import org.sobercompass.core.descriptor.Descriptor;
import org.sobercompass.core.descriptor.DsRights;
import org.sobercompass.core.descriptor.Target;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.system.Climb;
import org.sobercompass.core.system.Grant;
import org.sobercompass.core.system.Verdict;

/**
 * Finds the powers worth following: for each directory with lists, changing the permissions of its
 * top, from where everything can be had; for each application, the roles that administer it and the
 * accounts it trusts; and those that the workspace names.
 */
public final class NamedPowers {
  private NamedPowers() {}

  /** All of them, directories first. */
  public static List<NamedPower> of(Powers powers) {
    List<NamedPower> all = new ArrayList<>();
    for (DirectoryTree tree : powers.trees().all()) {
      if (tree.size() > 0) {
        all.add(
            new NamedPower(
                tree.directory(),
                "control the directory " + tree.directory(),
                true,
                controlling(powers, tree),
                isKnown(tree),
                List.of()));
      }
    }
    for (SystemView view : powers.model().systems()) {
      List<String> roles = view.admission().terms().administrators();
      List<String> trusted = view.admission().terms().trusted();
      if (!roles.isEmpty() || !trusted.isEmpty()) {
        all.add(
            new NamedPower(
                view.id(),
                "administer " + view.system().name(),
                false,
                administering(powers, view, roles, trusted)));
      }
    }
    all.addAll(powers.roles().administration().powers());
    return List.copyOf(all);
  }

  /**
   * The powers over systems in which some accounts may everything by themselves, such as superusers
   * of a database; what leads to them there is told by findings of its own.
   */
  public static List<NamedPower> ofSystems(Powers powers) {
    List<NamedPower> all = new ArrayList<>();
    for (SystemView view : powers.model().systems()) {
      List<Integer> controllers = view.system().controllers();
      List<Climb> climbs = view.system().climbs();
      if (!controllers.isEmpty() || !climbs.isEmpty()) {
        all.add(
            new NamedPower(
                view.id(),
                "do everything in " + view.system().name(),
                false,
                controllers,
                true,
                climbs));
      }
    }
    return List.copyOf(all);
  }

  /** Whether the lists of all tops were read. */
  private static boolean isKnown(DirectoryTree tree) {
    for (int top = 0; top < tree.size(); top = tree.end(top)) {
      if (tree.descriptor(top).isEmpty()) {
        return false;
      }
    }
    return true;
  }

  /** The trustees in the list of the top that may change its permissions, or own it. */
  private static List<Integer> controlling(Powers powers, DirectoryTree tree) {
    Set<Integer> found = new TreeSet<>();
    for (int top = 0; top < tree.size(); top = tree.end(top)) {
      Optional<Descriptor> descriptor = tree.descriptor(top);
      if (descriptor.isPresent()) {
        Set<String> trustees = new TreeSet<>();
        descriptor.get().entries().forEach(ace -> trustees.add(ace.trustee()));
        descriptor.get().owner().ifPresent(trustees::add);
        for (String sid : trustees) {
          boolean can =
              AccessCheck.decide(
                      descriptor.get(),
                      AccessCheck.Counts.surely(sid::equals),
                      Target.simple(DsRights.WRITE_DAC))
                  == Verdict.YES;
          if (can) {
            powers.trees().subject(sid).ifPresent(found::add);
          }
        }
      }
    }
    return List.copyOf(found);
  }

  private static List<Integer> administering(
      Powers powers, SystemView view, List<String> roles, List<String> trusted) {
    Set<Integer> found = new TreeSet<>();
    for (String name : trusted) {
      found.addAll(powers.model().facts().names().find(SubjectKind.ACCOUNT, name, name));
    }
    long asOf = powers.model().asOf().getEpochSecond();
    for (Grant grant : view.grants()) {
      boolean counts =
          grant.subject() >= 0
              && grant.activeAt(asOf)
              && roles.contains(view.system().roles().get(grant.role()).id())
              && powers.model().facts().kind(grant.subject()) != SubjectKind.IMPLICIT;
      if (counts) {
        found.add(grant.subject());
      }
    }
    return List.copyOf(found);
  }
}
