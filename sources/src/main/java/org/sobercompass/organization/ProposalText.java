package org.sobercompass.organization;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.Words;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.proposal.Proposal;
import org.sobercompass.core.proposal.Step;
import org.sobercompass.core.proposal.Step.Assignment;
import org.sobercompass.sources.text.YamlText;

/** Proposals as YAML that {@link ProposalFile} reads: stable keys, with names for people. */
final class ProposalText implements Step.Cases<String> {
  private final AccessModel model;

  ProposalText(AccessModel model) {
    this.model = model;
  }

  /** The text of a file. */
  String of(Proposal proposal) {
    StringBuilder text =
        new StringBuilder(
            "# A proposal. sober preview shows what it would do, also on a newer survey.\n");
    if (!proposal.name().isEmpty()) {
      text.append("name: ").append(YamlText.inQuotes(proposal.name())).append('\n');
    }
    text.append("changes:\n");
    for (Step step : proposal.steps()) {
      text.append("  - ").append(step.in(this)).append('\n');
    }
    return text.toString();
  }

  /** One change: its kind, and what is said of it, in order. */
  private static final class Line {
    private final String kind;
    private final Map<String, String> said = new LinkedHashMap<>();

    Line(String kind) {
      this.kind = kind;
    }

    Line with(String key, String text) {
      said.put(key, YamlText.inQuotes(text));
      return this;
    }

    /** The same where there is something to say. */
    Line withSome(String key, String text) {
      return text.isEmpty() ? this : with(key, text);
    }

    Line withAll(String key, List<String> texts) {
      said.put(
          key, texts.stream().map(YamlText::inQuotes).collect(Collectors.joining(", ", "[", "]")));
      return this;
    }

    /** A word that YAML reads as it stands. */
    Line plain(String key, String word) {
      said.put(key, word);
      return this;
    }

    String text() {
      return said.entrySet().stream()
          .map(e -> e.getKey() + ": " + e.getValue())
          .collect(Collectors.joining(", ", kind + ": {", "}"));
    }
  }

  @Override
  public String join(Step.Join join) {
    return membership("join", join.member(), join.group());
  }

  @Override
  public String leave(Step.Leave leave) {
    return membership("leave", leave.member(), leave.group());
  }

  private String membership(String kind, Key member, Key group) {
    return new Line(kind)
        .with("member", member.text())
        .with("group", group.text())
        .with("name", name(member) + " in " + name(group))
        .text();
  }

  @Override
  public String assign(Step.Assign assign) {
    return assignment("assign", assign.what());
  }

  @Override
  public String withdraw(Step.Withdraw withdraw) {
    return assignment("withdraw", withdraw.what());
  }

  private String assignment(String kind, Assignment what) {
    Line line =
        new Line(kind)
            .with("application", what.application())
            .with("role", what.role())
            .with("to", what.subject().text())
            .with("at", what.node());
    if (!what.below()) {
      line.plain("below", "no");
    }
    if (!what.on()) {
      line.plain("on", "no");
    }
    what.from().ifPresent(at -> line.plain("from", at.toString()));
    what.until().ifPresent(at -> line.plain("until", at.toString()));
    return line.with("name", name(what.subject())).text();
  }

  @Override
  public String line(Step.Line line) {
    String side = line.excepted() ? "except" : "include";
    String end = line.excepted() ? "end-exception" : "end-inclusion";
    return new Line(line.added() ? side : end)
        .with("scope", line.scope())
        .with("who", line.subject().text())
        .withSome("groups", line.groups())
        .with("name", name(line.subject()))
        .text();
  }

  @Override
  public String entry(Step.Entry entry) {
    return new Line(entry.removed() ? "remove-entry" : "restore-entry")
        .with("system", entry.system())
        .with("entry", entry.entry())
        .with("name", entry.words())
        .text();
  }

  @Override
  public String item(Step.ListItem item) {
    return new Line(item.added() ? "add-entry" : "take-entry")
        .with("system", item.system())
        .with("at", item.at())
        .with("entry", item.text())
        .text();
  }

  @Override
  public String account(Step.Disable disable) {
    return new Line(disable.disabled() ? "disable" : "enable")
        .with("account", disable.account().text())
        .with("name", name(disable.account()))
        .text();
  }

  @Override
  public String ends(Step.Ends ends) {
    Line line = new Line("end-account").with("account", ends.account().text());
    ends.was().ifPresent(at -> line.plain("was", at.toString()));
    ends.is().ifPresent(at -> line.plain("at", at.toString()));
    return line.with("name", name(ends.account())).text();
  }

  @Override
  public String hosts(Step.Hosts hosts) {
    return new Line("hosts")
        .with("account", hosts.account().text())
        .withAll("was", hosts.was())
        .withAll("is", hosts.is())
        .with("name", name(hosts.account()))
        .text();
  }

  @Override
  public String primary(Step.Primary primary) {
    Line line = new Line("primary-group").with("account", primary.account().text());
    primary.was().ifPresent(group -> line.with("was", group.text()));
    primary.is().ifPresent(group -> line.with("is", group.text()));
    return line.with("name", name(primary.account())).text();
  }

  @Override
  public String presence(Step.Presence step) {
    Line line =
        new Line(step.created() ? "create" : "delete")
            .with(step.subject().kind().word(), step.created() ? step.dn() : step.subject().text());
    if (!step.created()) {
      return line.with("name", name(step.subject())).text();
    }
    line.with("directory", step.subject().source());
    return line.plain("attributes", attributes(step.attributes())).text();
  }

  private static String attributes(Map<String, List<String>> attributes) {
    return attributes.entrySet().stream()
        .map(
            e ->
                e.getKey()
                    + ": "
                    + e.getValue().stream()
                        .map(YamlText::inQuotes)
                        .collect(Collectors.joining(", ", "[", "]")))
        .collect(Collectors.joining(", ", "{", "}"));
  }

  @Override
  public String register(Step.Register register) {
    return new Line(register.added() ? "enrol" : "strike")
        .with("application", register.application())
        .with("who", register.subject().text())
        .withSome("sign-in", register.signIn())
        .plain("active", register.active() ? "yes" : "no")
        .plain("second-factor", register.secondFactor() ? "yes" : "no")
        .withSome("at", register.at())
        .with("name", name(register.subject()))
        .text();
  }

  @Override
  public String role(Step.Role role) {
    return new Line("role")
        .with("application", role.application())
        .with("role", role.role())
        .withSome("area", role.area())
        .withAll("was", role.was())
        .withAll("is", role.is())
        .text();
  }

  @Override
  public String setting(Step.Setting setting) {
    Line line =
        new Line("setting").with("system", setting.system()).withAll("path", setting.path());
    if (!setting.was().isEmpty()) {
      line.plain("was", setting.was());
    }
    if (!setting.is().isEmpty()) {
      line.plain("is", setting.is());
    }
    return line.text();
  }

  private String name(Key key) {
    return model.facts().find(key).map(s -> Words.subject(model.facts(), s)).orElse(key.text());
  }
}
