package org.sobercompass.core.carry;

import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.carry.CarryPlan.How;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.proposal.NamingEntries;
import org.sobercompass.core.proposal.OwnRights;
import org.sobercompass.core.proposal.Proposal;
import org.sobercompass.core.proposal.Step;

/**
 * What moved on either side since rights were carried. A right that the one got since is carried
 * too; one that was withdrawn from it is withdrawn from the other, if it was carried to it; one
 * that the other lost by somebody else's hand is told, and not given again without a word.
 *
 * @param rights what both sides have, and what is still to be carried
 * @param withdrawn what was carried, and the one does not have any more
 * @param lost what was carried, the one still has, and was taken from the other since
 * @param bothChanged what was carried, and neither has any more as it was
 * @param known what is remembered from now on
 */
public record InStep(
    List<CarriedRight> rights,
    List<Ended> withdrawn,
    List<CarriedRight> lost,
    List<Remembered> bothChanged,
    List<Remembered> known) {
  /** Copies. */
  public InStep {
    rights = List.copyOf(rights);
    withdrawn = List.copyOf(withdrawn);
    lost = List.copyOf(lost);
    bothChanged = List.copyOf(bothChanged);
    known = List.copyOf(known);
  }

  /** Something that was carried and ends on the other side too. */
  public record Ended(Remembered what, List<Step> steps) {
    /** Copies. */
    public Ended {
      steps = List.copyOf(steps);
    }
  }

  /**
   * Holds what is carried now against what was carried before.
   *
   * @param memory what is remembered
   * @param plan how it is carried now; rights outside of it are left alone
   * @param today what is carried for the first time is remembered from this day on
   */
  public static InStep of(
      AccessModel model,
      Carried carried,
      List<Remembered> memory,
      CarryPlan plan,
      LocalDate today) {
    Facts facts = model.facts();
    Map<String, Remembered> before = new LinkedHashMap<>();
    memory.forEach(one -> before.put(one.id(), one));
    List<CarriedRight> rights = new ArrayList<>();
    List<CarriedRight> lost = new ArrayList<>();
    List<Remembered> known = new ArrayList<>();
    Set<String> again = new HashSet<>();
    Map<String, Step> present = memory.isEmpty() ? Map.of() : present(model, memory);
    for (CarriedRight right : carried.rights()) {
      Remembered was = before.remove(right.id(facts));
      again.add(place(StepText.of(right.source())));
      if (was != null && was.seen() && !right.there() && isGone(was, present)) {
        lost.add(right);
        known.add(was);
      } else {
        rights.add(right);
        known.add(remember(facts, right, was, plan.how(), today));
      }
    }
    InStep step = new InStep(rights, List.of(), lost, List.of(), known);
    return step.ended(before.values(), carried, present, again, plan);
  }

  /** With what was carried before and is not carried any more. */
  private InStep ended(
      Collection<Remembered> before,
      Carried carried,
      Map<String, Step> present,
      Set<String> again,
      CarryPlan plan) {
    List<Ended> gone = new ArrayList<>();
    List<Remembered> changed = new ArrayList<>();
    List<Remembered> all = new ArrayList<>(known);
    Set<String> wanted = new HashSet<>();
    carried.rights().forEach(right -> wanted.addAll(right.texts()));
    for (Remembered was : before) {
      List<Step> ends = new ArrayList<>();
      for (String text : was.target()) {
        Step there = present.get(text);
        if (there != null && !wanted.contains(text)) {
          ends.add(there.inverse());
        }
      }
      boolean stays = was.how() == How.INSTEAD || was.own() || !plan.within().isEmpty();
      if (stays) {
        all.add(ends.isEmpty() ? was : was.there());
      } else if (!ends.isEmpty()) {
        gone.add(new Ended(was, ends));
        all.add(was.there());
      } else if (was.seen() && again.contains(place(was.source()))) {
        changed.add(was);
      }
    }
    return new InStep(rights, gone, lost, changed, all);
  }

  private static Remembered remember(
      Facts facts, CarriedRight right, @Nullable Remembered was, How how, LocalDate today) {
    return new Remembered(
        right.id(facts),
        facts.key(right.from()),
        facts.key(right.to()),
        how,
        was == null ? today : was.on(),
        was == null ? right.there() : was.own(),
        right.there(),
        StepText.of(right.source()),
        right.texts());
  }

  /** Whether nothing of what was carried is there any more. */
  private static boolean isGone(Remembered was, Map<String, Step> present) {
    return was.target().stream().noneMatch(present::containsKey);
  }

  /** What a step gives to whom where, whatever its dates. */
  private static String place(String text) {
    return text.replaceFirst(" from [^ ]+Z", "").replaceFirst(" until [^ ]+Z", "");
  }

  /** What those have now to whom something was carried, by what gives it. */
  private static Map<String, Step> present(AccessModel model, List<Remembered> memory) {
    Facts facts = model.facts();
    Set<Integer> whom = new LinkedHashSet<>();
    memory.forEach(one -> facts.find(one.to()).ifPresent(whom::add));
    Map<String, Step> present = new HashMap<>();
    OwnRights own = new OwnRights(model);
    for (int to : whom) {
      own.assigned(to)
          .forEach(given -> given.what().ifPresent(what -> put(present, new Step.Assign(what))));
      own.lines(to).forEach(line -> put(present, line));
      own.memberships(to)
          .filter(membership -> membership.via().isListed())
          .forEach(
              membership ->
                  put(present, new Step.Join(facts.key(to), facts.key(membership.group()))));
    }
    for (SystemView view : NamingEntries.systems(model)) {
      NamingEntries naming = new NamingEntries(view);
      for (int to : whom) {
        naming.of(to).forEach(entry -> put(present, naming.step(entry)));
        naming.items(to).stream()
            .filter(item -> !view.system().isExclusive(item.text()))
            .forEach(item -> put(present, naming.step(item)));
      }
    }
    return present;
  }

  private static void put(Map<String, Step> present, Step step) {
    present.put(StepText.of(step), step);
  }

  /**
   * What brings both sides into step.
   *
   * @param onlyAdd whether what was withdrawn from the one is left to the other
   * @param again whether what the other lost since is given again
   */
  public Proposal proposal(String name, boolean onlyAdd, boolean again) {
    List<CarriedRight> all = new ArrayList<>(rights);
    if (again) {
      all.addAll(lost);
    }
    Set<Step> steps = new LinkedHashSet<>(new Carried(all, List.of()).proposal(name).steps());
    if (!onlyAdd) {
      withdrawn.forEach(ended -> steps.addAll(ended.steps()));
    }
    return new Proposal(name, List.copyOf(steps));
  }

  /** How many rights are still to be carried. */
  public int open() {
    return (int) rights.stream().filter(right -> !right.there()).count();
  }

  /** Whether nothing differs. */
  public boolean isDone() {
    return open() == 0 && withdrawn.isEmpty() && lost.isEmpty() && bothChanged.isEmpty();
  }
}
