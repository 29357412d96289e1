package org.sobercompass.core.findings;

import java.util.ArrayList;
import java.util.EnumSet;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.BiConsumer;
import org.sobercompass.core.admin.Administration;
import org.sobercompass.core.admin.Powers;
import org.sobercompass.core.delegation.Delegation;
import org.sobercompass.core.delegation.Delegations;
import org.sobercompass.core.delegation.DirectoryTree;
import org.sobercompass.core.delegation.DirectoryTrees;
import org.sobercompass.core.delegation.Origin;
import org.sobercompass.core.delegation.Origins;
import org.sobercompass.core.descriptor.AceType;
import org.sobercompass.core.findings.details.Evidence;
import org.sobercompass.core.removal.Goal;
import org.sobercompass.core.scope.AdminGrant;

/**
 * What accounts are entrusted with in directories, by name or by their groups, not because they are
 * anybody: admin roles, and what was delegated in lists. Not thread-safe. O(objects) to make.
 */
public final class Entrusted {
  private static final Set<Origin> DELEGATED = EnumSet.of(Origin.ADDED, Origin.CLAIMED);

  /** Nobody is entrusted with anything. */
  public static final Entrusted NOTHING = new Entrusted(Map.of());

  private final Map<String, List<Given>> bySid;

  /** Something delegated to a trustee on an object. */
  public record Given(DirectoryTree tree, Delegation delegation) {}

  private Entrusted(Map<String, List<Given>> bySid) {
    this.bySid = bySid;
  }

  public Entrusted(Assessment assessment) {
    this(new HashMap<>());
    each(
        assessment,
        (tree, one) -> {
          if (!one.denies() && !DirectoryTrees.isOfEverybody(one.trustee())) {
            bySid.computeIfAbsent(one.trustee(), s -> new ArrayList<>()).add(new Given(tree, one));
          }
        });
  }

  /** The admin roles and lines of lists that reach an account. */
  public List<Evidence> of(Powers powers, int account) {
    List<Evidence> found = new ArrayList<>();
    Administration all = powers.roles().administration();
    for (int number : roles(powers, account)) {
      AdminGrant grant = all.grants().get(number);
      found.add(
          new Evidence.AdminRole(
              all.roles().get(grant.role()).name(), all.over(grant), grant.subject()));
    }
    entries(powers, account)
        .forEach(
            (sid, some) -> {
              int through = powers.trees().subject(sid).orElse(-1);
              for (Given one : some) {
                String object = one.tree.label(one.delegation.object());
                found.add(new Evidence.Delegated(one.delegation.may(), object, through, sid));
              }
            });
    return found;
  }

  private static List<Integer> roles(Powers powers, int account) {
    long asOf = powers.model().asOf().getEpochSecond();
    return powers.roles().grantsOf(account).stream()
        .filter(g -> powers.roles().administration().grants().get(g).activeAt(asOf))
        .toList();
  }

  private Map<String, List<Given>> entries(Powers powers, int account) {
    Map<String, List<Given>> found = new TreeMap<>();
    Set<String> token = bySid.isEmpty() ? Set.of() : powers.lists().sids(account);
    for (String sid : token) {
      List<Given> some = bySid.getOrDefault(sid, List.of());
      if (!some.isEmpty()) {
        found.put(sid, some);
      }
    }
    return found;
  }

  /** One that is still there after removals, as facts that can go. */
  public Optional<Goal.Still> first(Powers powers, int account) {
    ActFacts facts = new ActFacts(powers);
    List<Integer> roles = roles(powers, account);
    if (!roles.isEmpty()) {
      facts.role(account, roles.get(0));
      // To take things out of the scope would leave the role.
      return Optional.of(facts.stillExact());
    }
    for (Map.Entry<String, List<Given>> of : entries(powers, account).entrySet()) {
      for (Given one : of.getValue()) {
        DirectoryTree now = powers.trees().of(one.tree.directory());
        for (int entry : one.delegation.entries()) {
          boolean there =
              now.descriptor(one.delegation.object())
                      .orElseThrow()
                      .entries()
                      .get(entry)
                      .type()
                      .effect()
                  != AceType.Effect.NONE;
          if (there) {
            facts.trustee(account, of.getKey());
            facts.add(powers.lists().removal(now, one.delegation.object(), entry));
            return Optional.of(facts.still());
          }
        }
      }
    }
    return Optional.empty();
  }

  /** All that was delegated, object by object. */
  public static void each(Assessment assessment, BiConsumer<DirectoryTree, Delegation> out) {
    for (DirectoryTree tree : assessment.powers().trees().all()) {
      Delegations lister =
          new Delegations(
              tree,
              new Origins(tree, assessment.accepted(tree.directory())),
              assessment.powers().roles().administration().actions());
      for (int object = 0; object < tree.size(); object++) {
        lister.on(object, DELEGATED).forEach(one -> out.accept(tree, one));
      }
    }
  }
}
