package org.sobercompass.core.readiness;

import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.Via;
import org.sobercompass.core.filter.Filter;
import org.sobercompass.core.membership.Sight;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.store.IntRows;

/**
 * Looks whether the attributes that a sight goes by are known in its directory, and how often they
 * are filled. O(subjects x attributes). Immutable.
 */
public final class SightFill {
  private final Facts facts;
  private final SystemView view;
  private final Sight sight;

  /** Over what one system sees. */
  public SightFill(AccessModel model, SystemView view) {
    this.facts = model.facts();
    this.view = view;
    this.sight = view.system().sight();
  }

  /**
   * How often one attribute is filled.
   *
   * @param attribute its name in lower case
   * @param what {@code accounts} or {@code groups}
   * @param filled how many have a value
   * @param of how many of its directory were looked at
   * @param known whether the directory knows the attribute at all
   */
  public record Fill(String attribute, String what, int filled, int of, boolean known) {}

  /** All attributes the sight goes by, accounts first, by name. */
  public List<Fill> fills() {
    List<Fill> fills = new ArrayList<>();
    Set<String> accounts = new TreeSet<>();
    sight.accountFilter().ifPresent(filter -> filter.collectAttributes(accounts));
    sight.loginAttribute().ifPresent(accounts::add);
    accounts.forEach(a -> fills.add(fill(a, "accounts", 0, facts.accounts())));
    Set<String> groups = new TreeSet<>();
    sight.groupFilter().ifPresent((Filter filter) -> filter.collectAttributes(groups));
    int first = facts.firstGroup();
    groups.forEach(g -> fills.add(fill(g, "groups", first, first + facts.groups())));
    return fills;
  }

  private Fill fill(String attribute, String what, int from, int to) {
    int filled = 0;
    int of = 0;
    for (int s = from; s < to; s++) {
      if (facts.source(s).equals(sight.directory())) {
        of++;
        filled += facts.values(s, attribute).isEmpty() ? 0 : 1;
      }
    }
    boolean known = filled > 0 || facts.matching(sight.directory(), attribute).isPresent();
    return new Fill(attribute, what, filled, of, known);
  }

  /** What cannot be right: an attribute nobody has, groups listed in another way. */
  List<Problem> problems() {
    List<Problem> problems = new ArrayList<>();
    for (Fill fill : fills()) {
      if (fill.filled == 0 && fill.of > 0) {
        problems.add(
            Problem.warning(
                    Place.of(view.id()),
                    view.system().name()
                        + " relies on "
                        + fill.attribute
                        + (fill.known
                            ? ", which none of the " + fill.of + " " + fill.what + " of "
                            : ", which is no attribute in ")
                        + sight.directory()
                        + (fill.known ? " has" : ""),
                    "an attribute that is filled; `sober probe` tells which")
                .near(fill.known ? "" : facts.names().nearestAttribute(fill.attribute)));
      }
    }
    if (view.memberships().profile().counts().stream().noneMatch(this::isUsed)) {
      problems.add(
          Problem.warning(
              Place.of(view.id()),
              view.system().name() + " counts no membership that " + sight.directory() + " has",
              "the attributes that list members there; `sober probe` tells which"));
    }
    return problems;
  }

  /** Whether any membership of this kind is there; container and implicit ones always are. */
  private boolean isUsed(Via via) {
    if (!via.isSure()) {
      return false;
    }
    if (via == Via.IMPLICIT || via == Via.CONTAINER) {
      return facts.groups() == 0;
    }
    IntRows up = facts.arrays().up();
    byte[] kinds = facts.arrays().upVia();
    for (int s = 0; s < facts.subjects(); s++) {
      for (int at = up.start(s); at < up.end(s); at++) {
        if (kinds[at] == via.ordinal() && facts.source(s).equals(sight.directory())) {
          return true;
        }
      }
    }
    return false;
  }
}
