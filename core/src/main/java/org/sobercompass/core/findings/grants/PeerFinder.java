package org.sobercompass.core.findings.grants;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.EnumSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Consumer;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.findings.Finder;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.findings.FindingContext;
import org.sobercompass.core.findings.FindingKind;
import org.sobercompass.core.findings.Peers;
import org.sobercompass.core.findings.Remedy;
import org.sobercompass.core.findings.Weight;
import org.sobercompass.core.findings.details.Evidence;
import org.sobercompass.core.findings.details.UseDetails;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.key.KeyKind;

/**
 * Rights that hardly any peer holds, in applications with roles. Peers have equal values in the
 * attributes that the workspace names; small groups, service and resource accounts, and accounts
 * without a value are left out. Where the workspace names none, nothing is compared.
 */
public final class PeerFinder implements Finder {
  /** What it looks for. */
  public static final Set<FindingKind> KINDS = EnumSet.of(FindingKind.PEER_OUTLIER);

  private final FindingContext context;
  private final Facts facts;

  public PeerFinder(FindingContext context) {
    this.context = context;
    this.facts = context.facts;
  }

  @Override
  public void find(Consumer<Finding> out) {
    new Peers(context).groups().forEach((values, peers) -> group(values, peers, out));
  }

  private void group(String values, List<Integer> peers, Consumer<Finding> out) {
    for (SystemView view : context.model.systems()) {
      if (view.admission().isOpen() || view.assigned().isEmpty()) {
        continue;
      }
      Peers.Shared shared = Peers.shared(context.asker, view, peers);
      // Those who stand out by the same rights are one finding: they mostly share a task.
      Map<List<Integer>, List<Integer>> alike = new LinkedHashMap<>();
      for (int i = 0; i < peers.size(); i++) {
        List<Integer> rare = rare(view, shared.held().get(i), shared);
        int peer = peers.get(i);
        rare.removeIf(right -> isAgreed(view, peer, right));
        if (!rare.isEmpty()) {
          alike.computeIfAbsent(rare, r -> new ArrayList<>()).add(peer);
        }
      }
      alike.forEach(
          (rare, accounts) ->
              out.accept(finding(view, accounts, values, rare, shared.holders(), peers.size())));
    }
  }

  /**
   * Whether a right comes by a group with others in it: a group for a task is rare by its nature,
   * and what it gives to all its members is agreed for the group.
   */
  private boolean isAgreed(SystemView view, int account, int right) {
    return context
        .route(view, account, right)
        .flatMap(Evidence::route)
        .filter(route -> route.subjects().size() > 1)
        .map(route -> route.subjects().get(route.subjects().size() - 1))
        .filter(subject -> facts.kind(subject) == SubjectKind.GROUP)
        .filter(group -> context.accounts(group).cardinality() > 1)
        .isPresent();
  }

  /** Without the levels that a rarer one contains. */
  private List<Integer> rare(SystemView view, BitSet own, Peers.Shared shared) {
    List<Integer> rare = new ArrayList<>();
    own.stream()
        .filter(right -> !view.rights().isMinor(right))
        .filter(right -> shared.isRare(right, context.limits.peersPercent()))
        .forEach(rare::add);
    List<Integer> contained = new ArrayList<>();
    rare.forEach(right -> contained.addAll(view.rights().contains(right)));
    rare.removeAll(contained);
    return rare;
  }

  private Finding finding(
      SystemView view,
      List<Integer> accounts,
      String values,
      List<Integer> rare,
      int[] holders,
      int peers) {
    List<Evidence> evidence = new ArrayList<>();
    List<String> texts = new ArrayList<>();
    boolean strong = false;
    for (int right : rare) {
      texts.add(view.rights().text(right));
      strong |= view.rights().isStrongest(right);
      for (int account : accounts) {
        if (evidence.size() < FindingContext.SHOWN) {
          context.route(view, account, right).ifPresent(evidence::add);
        }
      }
    }
    int most = rare.stream().mapToInt(right -> holders[right]).max().orElse(0);
    return context.finding(
        FindingKind.PEER_OUTLIER,
        view.id(),
        new Key(KeyKind.NODE, "peers", values + "/" + String.join(",", texts)),
        strong ? Weight.MEDIUM : Weight.LOW,
        new UseDetails.Outlier(view.number(), accounts, values, rare, most, peers),
        evidence,
        view.id(),
        context.keys(accounts),
        new Remedy.Unheld(accounts, view.number(), rare));
  }
}
