package org.sobercompass.core.proposal;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.sobercompass.core.system.Change;

/**
 * A proposal laid over a model.
 *
 * @param made what the steps change, in their order
 * @param notes what is to be said of single steps
 */
public record Bound(List<Made> made, List<Note> notes) {
  /** Copies. */
  public Bound {
    made = List.copyOf(made);
    notes = List.copyOf(notes);
  }

  /**
   * A step that changes something.
   *
   * @param step its place in the proposal, from 0
   * @param change the same by the numbers of the model
   */
  public record Made(int step, Change change) {}

  /** What there is to change, in order, by the numbers of the model. */
  public List<Change> changes() {
    return made.stream().map(Made::change).toList();
  }

  /**
   * The same by the places of the steps, in order; a step has several where a group lists the same
   * member by several attributes.
   */
  public Map<Integer, List<Change>> byStep() {
    Map<Integer, List<Change>> all = new LinkedHashMap<>();
    made.forEach(one -> all.computeIfAbsent(one.step(), k -> new ArrayList<>()).add(one.change()));
    return all;
  }

  /** Why a step changes nothing, or what is to be known of it. */
  public enum Kind {
    /** It is so already. */
    ALREADY,
    /** What it would change is not there. */
    NOT_THERE,
    /** It names something that is not there. */
    UNKNOWN,
    /** It takes back another step of the same proposal. */
    CONTRADICTS,
    /** The groups would contain each other. The step is made all the same. */
    CIRCLE,
    /** What it deletes is still named elsewhere. The step is made all the same. */
    LEFTOVER,
    /** Taken back, it is not whole again. The step is made all the same. */
    FOR_GOOD
  }

  /**
   * Said of a step.
   *
   * @param step its place in the proposal, from 0
   * @param what in words; a sentence without a full stop
   */
  public record Note(int step, Kind kind, String what) {
    /** Whether the step cannot be made as it stands. */
    public boolean isWrong() {
      return kind == Kind.UNKNOWN || kind == Kind.CONTRADICTS;
    }
  }

  /** Whether every step can be made, or is made already. */
  public boolean isSound() {
    return notes.stream().noneMatch(Note::isWrong);
  }
}
