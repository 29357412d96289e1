package org.sobercompass.sources;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import org.sobercompass.core.amendment.Difference;

/**
 * Records of an amendment on their way: what each kind of system makes of steps. Not thread-safe.
 */
public final class Drafts {
  private final List<Draft> drafts = new ArrayList<>();
  private final List<Left> left = new ArrayList<>();

  /**
   * One record to be.
   *
   * @param steps the numbers of the steps that it makes
   * @param target the name of the directory or system
   * @param kind the word of the {@link TargetKind}
   * @param place where
   * @param id what finds it under another name, or empty
   * @param differences what changes there
   */
  public record Draft(
      Set<Integer> steps,
      String target,
      String kind,
      String place,
      String id,
      List<Difference> differences) {
    /** Of a place that keeps its name. */
    public Draft(
        Set<Integer> steps,
        String target,
        String kind,
        String place,
        List<Difference> differences) {
      this(steps, target, kind, place, "", differences);
    }

    /** Copies. */
    public Draft {
      steps = Set.copyOf(steps);
      differences = List.copyOf(differences);
    }

    private int first() {
      return steps.stream().min(Comparator.naturalOrder()).orElse(0);
    }
  }

  /**
   * A step that no record makes.
   *
   * @param why why not
   */
  public record Left(int step, String why) {}

  /** Adds a record. */
  public void add(Draft draft) {
    drafts.add(draft);
  }

  /** Adds one difference that one step makes. */
  public void add(int step, String target, String kind, String place, Difference difference) {
    drafts.add(new Draft(Set.of(step), target, kind, place, List.of(difference)));
  }

  /** Says that a step has to be made by hand. */
  public void byHand(int step, String why) {
    left.add(new Left(step, why));
  }

  /** All records, in the order of the first step of each. */
  public List<Draft> all() {
    return drafts.stream().sorted(Comparator.comparingInt(Draft::first)).toList();
  }

  /** The steps that no record makes. */
  public List<Left> left() {
    return left.stream().sorted(Comparator.comparingInt(Left::step)).toList();
  }

  /** The numbers of several steps. */
  public static Set<Integer> steps(List<? extends Numbered> some) {
    Set<Integer> numbers = new TreeSet<>();
    some.forEach(one -> numbers.add(one.step()));
    return numbers;
  }

  /** What belongs to a step of the proposal. */
  public interface Numbered {
    /** The number of the step, from 0. */
    int step();
  }
}
