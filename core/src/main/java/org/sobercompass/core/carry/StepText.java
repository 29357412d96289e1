package org.sobercompass.core.carry;

import java.time.Instant;
import java.util.Optional;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.proposal.Step;
import org.sobercompass.core.proposal.Step.Assignment;

/** A step as one line by keys, equal for equal steps; to be kept and compared, never parsed. */
public final class StepText implements Step.Cases<String> {
  private static final StepText TEXT = new StepText();

  private StepText() {}

  /** The line. */
  public static String of(Step step) {
    return step.in(TEXT);
  }

  @Override
  public String join(Step.Join step) {
    return "join " + step.member().text() + " " + step.group().text();
  }

  @Override
  public String leave(Step.Leave step) {
    return "leave " + step.member().text() + " " + step.group().text();
  }

  @Override
  public String assign(Step.Assign step) {
    return "assign " + of(step.what());
  }

  @Override
  public String withdraw(Step.Withdraw step) {
    return "withdraw " + of(step.what());
  }

  private static String of(Assignment what) {
    return what.application()
        + " "
        + what.role()
        + " "
        + what.subject().text()
        + " at "
        + what.node()
        + (what.below() ? "" : " only")
        + moment(" from ", what.from())
        + moment(" until ", what.until())
        + (what.on() ? "" : " off");
  }

  private static String moment(String word, Optional<Instant> at) {
    return at.map(instant -> word + instant).orElse("");
  }

  @Override
  public String line(Step.Line step) {
    return (step.added() ? "line " : "no line ")
        + step.scope()
        + (step.excepted() ? " except " : " include ")
        + step.subject().text()
        + " "
        + step.groups();
  }

  @Override
  public String entry(Step.Entry step) {
    return (step.removed() ? "no entry " : "entry ")
        + step.system()
        + " "
        + step.entry()
        + " "
        + step.words();
  }

  @Override
  public String account(Step.Disable step) {
    return (step.disabled() ? "disable " : "enable ") + step.account().text();
  }

  @Override
  public String ends(Step.Ends step) {
    return "ends " + step.account().text() + moment(" ", step.is());
  }

  @Override
  public String hosts(Step.Hosts step) {
    return "hosts "
        + step.account().text()
        + " "
        + String.join(",", step.was())
        + " "
        + String.join(",", step.is());
  }

  @Override
  public String primary(Step.Primary step) {
    return "primary "
        + step.account().text()
        + " "
        + step.was().map(Key::text).orElse("-")
        + " "
        + step.is().map(Key::text).orElse("-");
  }

  @Override
  public String presence(Step.Presence step) {
    return (step.created() ? "create " : "delete ") + step.subject().text();
  }

  @Override
  public String register(Step.Register step) {
    return (step.added() ? "enrol " : "no enrol ")
        + step.application()
        + " "
        + step.subject().text()
        + " "
        + step.signIn()
        + (step.active() ? " active" : "")
        + (step.secondFactor() ? " second-factor " : " ")
        + step.at();
  }

  @Override
  public String role(Step.Role step) {
    return "role "
        + step.application()
        + " "
        + step.role()
        + " "
        + step.area()
        + " "
        + String.join("+", step.is());
  }

  @Override
  public String setting(Step.Setting step) {
    return "setting "
        + step.system()
        + " "
        + String.join(":", step.path())
        + " "
        + step.was()
        + " -> "
        + step.is();
  }

  @Override
  public String item(Step.ListItem step) {
    return (step.added() ? "item " : "no item ")
        + step.system()
        + " "
        + step.at()
        + " "
        + step.text();
  }
}
