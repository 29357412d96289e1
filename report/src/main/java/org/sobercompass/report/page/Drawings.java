package org.sobercompass.report.page;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.Asker;
import org.sobercompass.core.access.Holding;
import org.sobercompass.core.access.LevelsHeld;
import org.sobercompass.core.access.RolesHeld;
import org.sobercompass.core.access.RouteFinder;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.delegation.DirectoryTrees;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.findings.Assessment;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.findings.FindingContext;
import org.sobercompass.core.findings.FindingKind;
import org.sobercompass.core.findings.Peers;
import org.sobercompass.core.findings.SeparationRule;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.system.Limits;
import org.sobercompass.core.system.Resources;
import org.sobercompass.report.answers.DelegationAnswers;
import org.sobercompass.report.answers.DelegationTree;
import org.sobercompass.report.answers.ListAnswers;
import org.sobercompass.report.page.Section.Picture;
import org.sobercompass.report.picture.MatrixDrawing;
import org.sobercompass.report.picture.PeerDrawing;
import org.sobercompass.report.picture.RouteDrawing;
import org.sobercompass.report.picture.TreeDrawing;

/** The pictures of a page, each also to be had by itself. Not thread-safe. */
public final class Drawings {
  private static final int DRAWN = 400;
  private static final int PLACES = 60;

  private final AccessModel model;
  private final Facts facts;
  private final Assessment assessment;
  private final List<Finding> findings;
  private @Nullable List<List<Integer>> peers;

  /**
   * Pictures of a model.
   *
   * @param findings the open ones, for what is in conflict
   */
  public Drawings(AccessModel model, Assessment assessment, List<Finding> findings) {
    this.model = model;
    this.facts = model.facts();
    this.assessment = assessment;
    this.findings = List.copyOf(findings);
  }

  /** A shortest route of an account to each permission, at its highest level; alike ones merged. */
  public RouteDrawing routes(int account) {
    Asker asker = model.asker();
    RouteFinder finder = new RouteFinder(asker, Limits.ONE);
    RouteDrawing drawing = new RouteDrawing(model);
    Map<String, Holding> first = new LinkedHashMap<>();
    Set<String> contained = new HashSet<>();
    for (Holding holding : asker.holdings(account)) {
      SystemView view = model.systems().get(holding.system());
      first.putIfAbsent(view.number() + ":" + holding.right(), holding);
      view.rights().contains(holding.right()).forEach(r -> contained.add(view.number() + ":" + r));
    }
    first.keySet().removeAll(contained);
    first.values().stream()
        .limit(DRAWN)
        .forEach(
            holding -> {
              SystemView view = model.systems().get(holding.system());
              finder
                  .first(view, account, holding.right(), holding.resource())
                  .ifPresent(route -> drawing.add(view, route));
            });
    return drawing;
  }

  /** Some accounts by the roles of an application; empty when they have none. */
  public String matrix(SystemView view, List<Integer> accounts) {
    return MatrixDrawing.draw(
        facts, view, RolesHeld.of(model.asker(), view, accounts), conflicts(view, accounts));
  }

  /** Groups by the roles of an application that they bring; empty when none brings any. */
  public String groups(SystemView view) {
    RolesHeld.Finder finder = new RolesHeld.Finder(model.asker(), view);
    List<RolesHeld.Row> rows = new ArrayList<>();
    for (int g = 0; g < facts.groups(); g++) {
      finder.group(facts.firstGroup() + g).ifPresent(rows::add);
    }
    return MatrixDrawing.draw(facts, view, new RolesHeld(rows), Set.of());
  }

  /** Some accounts by the areas of an application, with the level they hold there. */
  public String levels(SystemView view, List<Integer> accounts) {
    return MatrixDrawing.levels(facts, view, LevelsHeld.of(model.asker(), view, accounts));
  }

  /** Which roles of which accounts a separation of duties speaks of. */
  private Set<MatrixDrawing.Conflict> conflicts(SystemView view, List<Integer> accounts) {
    Set<Key> drawn = new HashSet<>();
    accounts.forEach(account -> drawn.add(facts.key(account)));
    Set<String> rules =
        assessment.rules().separation().stream()
            .filter(rule -> rule.systems().contains(view.id()))
            .map(SeparationRule::id)
            .collect(Collectors.toSet());
    Set<MatrixDrawing.Conflict> all = new HashSet<>();
    for (Finding finding : findings) {
      if (finding.kind() == FindingKind.SEPARATION_OF_DUTIES
          && rules.contains(finding.rule())
          && finding.subjects().stream().anyMatch(drawn::contains)) {
        Set<Integer> roles = new HashSet<>();
        finding.evidence().stream()
            .filter(item -> item.system() == view.number())
            .flatMap(item -> item.route().stream())
            .forEach(route -> view.system().findRole(route.roles().get(0)).ifPresent(roles::add));
        for (Key key : finding.subjects()) {
          facts
              .find(key)
              .ifPresent(
                  account ->
                      roles.forEach(role -> all.add(new MatrixDrawing.Conflict(account, role))));
        }
      }
    }
    return all;
  }

  /**
   * An account beside its peers in an application; empty when it has none, or they hold nothing.
   */
  public String peers(int account, SystemView view) {
    for (List<Integer> group : peers()) {
      if (group.contains(account)) {
        Peers.Shared shared = Peers.shared(model.asker(), view, group);
        int percent = assessment.rules().thresholds().peersPercent();
        return PeerDrawing.draw(facts, view, shared, account, percent);
      }
    }
    return "";
  }

  /** Who is expected to hold the same; worked out once for all systems. */
  private List<List<Integer>> peers() {
    List<List<Integer>> known = peers;
    if (known == null) {
      known = List.copyOf(new Peers(new FindingContext(assessment)).groups().values());
      peers = known;
    }
    return known;
  }

  /** The units of a directory with what was delegated on each, from one on. */
  public static String units(DelegationAnswers answers, DirectoryTrees.Spot spot) {
    List<TreeDrawing.Place> places = new ArrayList<>();
    List<DelegationTree.Line> lines = answers.tree().lines(spot);
    for (DelegationTree.Line line : lines.subList(0, Math.min(PLACES, lines.size()))) {
      String signs = line.sign().replace(".", "") + (line.blocked() ? "|" : "");
      String says = String.join("; ", line.own().stream().map(own -> own.substring(2)).toList());
      places.add(new TreeDrawing.Place(line.depth(), line.name(), signs, says));
    }
    return TreeDrawing.draw("Delegations on " + spot.tree().label(spot.object()), places);
  }

  /** The places of a system with lists, and what is set at each, from one on. */
  public static Picture places(SystemView view, int top) {
    Resources all = view.resources();
    List<TreeDrawing.Place> places = new ArrayList<>();
    for (int r = top; r < all.end(top) && places.size() < PLACES; r++) {
      String path = all.id(r);
      String own = r == top ? path : path.substring(path.lastIndexOf('/') + 1);
      String says = ListAnswers.entries(view, r);
      String signs = ListAnswers.signs(view, r).replaceAll("[^+|=?]", "");
      places.add(new TreeDrawing.Place(all.depth(r) - all.depth(top), own, signs, says));
    }
    int more = all.end(top) - top - places.size();
    return new Picture(
        "What is set where" + (more > 0 ? "; " + more + " more are not drawn." : "."),
        TreeDrawing.draw("What is set at " + all.name(top) + " and below", places));
  }
}
