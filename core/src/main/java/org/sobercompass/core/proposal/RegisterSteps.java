package org.sobercompass.core.proposal;

import java.util.ArrayList;
import java.util.List;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.system.Enrolment;

/**
 * Steps that put somebody on the register of an application, or strike somebody off. Immutable and
 * thread-safe.
 */
public final class RegisterSteps {
  private final AccessModel model;
  private final SystemView view;

  /** For the register of a system as it stands. */
  public RegisterSteps(AccessModel model, SystemView view) {
    this.model = model;
    this.view = view;
  }

  /**
   * What enrols a subject in this way: its other lines at the same place give way.
   *
   * @param signIn the kind of sign-in
   * @param at where in the application, or empty
   */
  public List<Step> enrol(
      int subject, String signIn, boolean active, boolean secondFactor, String at) {
    Step wanted =
        new Step.Register(
            view.id(), model.facts().key(subject), signIn, active, secondFactor, at, true);
    List<Step> steps = new ArrayList<>();
    for (Enrolment line : lines(subject)) {
      Step there = new Steps(model).register(view, line, true);
      if (line.at().equals(at) && !there.equals(wanted)) {
        steps.add(there.inverse());
      }
    }
    steps.add(wanted);
    return List.copyOf(steps);
  }

  /** What strikes a subject off; nothing where no line names it itself. */
  public List<Step> strike(int subject) {
    return lines(subject).stream()
        .map(line -> new Steps(model).register(view, line, false))
        .toList();
  }

  private List<Enrolment> lines(int subject) {
    return view.admission().register().orElse(List.of()).stream()
        .filter(line -> line.subject() == subject)
        .toList();
  }
}
