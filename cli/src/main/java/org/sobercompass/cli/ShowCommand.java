package org.sobercompass.cli;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.concurrent.Callable;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.filter.Filter;
import org.sobercompass.core.filter.FilterParser;
import org.sobercompass.core.filter.FilterSyntaxException;
import org.sobercompass.core.filter.Truth;
import org.sobercompass.core.membership.Visibility;
import org.sobercompass.core.person.Link;
import org.sobercompass.core.person.Persons;
import org.sobercompass.report.answers.AccountAnswers;
import org.sobercompass.report.answers.SubjectAnswers;
import org.sobercompass.report.data.AnswerTable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** {@code sober show}. */
@Command(
    name = "show",
    mixinStandardHelpOptions = true,
    description =
        "Shows one thing in full: an account, a group, a host, a role, a node, a list, a tree.",
    footer = {
      "",
      "Examples, on the demo:",
      "  sober show account ilse.brandt",
      "  sober show account ilse.brandt --memberships",
      "  sober show accounts --where \"(departmentNumber=Herbarium)\"",
      "  sober show group vault-leads",
      "  sober show role orders standin-buyer",
      "  sober show node doors cold-room",
      "  sober show powers nlarkin --beside glasshouses",
      "  sober show tree fieldshare /glasshouses",
      "  sober show list fieldshare /glasshouses/2024",
      "  sober show access fieldshare /glasshouses/2026",
      "  sober show layers fieldshare:change /vault/germination bostler tquill"
    })
final class ShowCommand implements Callable<Integer> {
  @Mixin private Inputs inputs = new Inputs();

  @Parameters(
      index = "0",
      paramLabel = "KIND",
      description =
          "account, accounts, group, host, role, node, assignments, scope, scopes, powers; of files"
              + " and"
              + " databases tree, list, access or layers")
  private String kind = "";

  @Parameters(
      index = "1..*",
      paramLabel = "NAME",
      arity = "0..*",
      description = "the name; for a role or node the application first")
  private List<String> names = new ArrayList<>();

  @Option(
      names = "--memberships",
      description = "the groups of the account instead of its holdings")
  private boolean memberships;

  @Option(
      names = "--where",
      paramLabel = "FILTER",
      description = "picks accounts by a filter (RFC 4515), or by ATTRIBUTE=VALUE")
  private @Nullable String where;

  @Option(
      names = "--beside",
      paramLabel = "SCOPE",
      description = "with powers: inside and outside of this admin scope, side by side")
  private @Nullable String beside;

  @Option(names = "--below", description = "with access: also what somebody can do below")
  private boolean below;

  @Override
  public Integer call() {
    switch (kind.toLowerCase(Locale.ROOT)) {
      case "account" -> account(one("an account"));
      case "accounts" -> accounts();
      case "group" ->
          inputs.print(
              new SubjectAnswers(inputs.ask()).group(inputs.names().group(one("a group"))));
      case "role" -> role(two("a role"));
      case "node" -> node(two("a node"));
      case "assignments" ->
          inputs.print(
              new SubjectAnswers(inputs.ask())
                  .assignments(inputs.names().application(one("an application"))));
      case "scope" -> {
        Administering all = new Administering(inputs, null);
        inputs.printBrief(all.scopes().scope(inputs.names().acts().scope(one("an admin scope"))));
      }
      case "scopes" -> inputs.print(new Administering(inputs, null).scopes().scopes());
      case "powers" -> {
        Administering all = new Administering(inputs, null);
        int account = inputs.names().account(one("an account"));
        inputs.print(
            all.answers()
                .powers(account, Optional.ofNullable(beside).map(inputs.names().acts()::scope)));
      }
      case "tree", "list", "access", "layers" -> new ListViews(inputs).show(kind, names, below);
      case "host" -> inputs.print(new SubjectAnswers(inputs.ask()).host(one("a host")));
      default ->
          throw new UsageException(
              "cannot show "
                  + kind
                  + "; expected account, accounts, group, host, role, node, assignments, scope,"
                  + " scopes, powers, tree, list, access or layers");
    }
    return Exit.OK;
  }

  private void role(List<String> typed) {
    SystemView view = inputs.names().application(typed.get(0));
    int role = inputs.names().role(view, typed.get(1));
    inputs.print(new SubjectAnswers(inputs.ask()).role(view, role));
  }

  private void node(List<String> typed) {
    SystemView view = inputs.names().application(typed.get(0));
    int node = inputs.names().node(view, typed.get(1));
    inputs.print(new SubjectAnswers(inputs.ask()).node(view, node));
  }

  private String one(String what) {
    if (names.size() != 1) {
      throw new UsageException(
          "expected the name of " + what + ", as in: sober show account ilse.brandt");
    }
    return names.get(0);
  }

  private List<String> two(String what) {
    if (names.size() != 2) {
      throw new UsageException(
          "expected an application and " + what + ", as in: sober show role orders clerk");
    }
    return names;
  }

  private void account(String name) {
    int account = inputs.names().account(name);
    AccountAnswers answers = new AccountAnswers(inputs.ask());
    if (memberships) {
      inputs.print(answers.memberships(account));
    } else {
      inputs.print(
          withPerson(account, inputs.isTable() ? answers.brief(account) : answers.full(account)));
    }
  }

  /** Says which other accounts are the same person's, and why. */
  private AnswerTable withPerson(int account, AnswerTable sheet) {
    Persons persons = inputs.workspace().persons();
    Facts facts = inputs.model().facts();
    List<String> others = new ArrayList<>();
    for (int other : persons.accounts(account)) {
      if (other != account) {
        others.add(facts.login(other) + " in " + facts.source(other));
      }
    }
    if (others.isEmpty()) {
      return sheet;
    }
    String why =
        persons.reasons(account).stream()
            .map(Link::reason)
            .distinct()
            .collect(Collectors.joining("; "));
    return sheet.withNote(
        "The same person has "
            + String.join(", ", others)
            + (why.isEmpty() ? "." : " (" + why + ")."));
  }

  private void accounts() {
    Optional<Filter> filter = Optional.ofNullable(where).map(ShowCommand::parse);
    Set<String> needs = new TreeSet<>();
    filter.ifPresent(f -> f.collectAttributes(needs));
    Facts facts = inputs.open(needs).facts();
    List<Integer> picked = new ArrayList<>();
    int undefined = 0;
    for (int account = 0; account < facts.accounts(); account++) {
      var values = new Visibility.SubjectValues(facts, account);
      Truth truth = filter.map(f -> f.test(values)).orElse(Truth.TRUE);
      undefined += truth == Truth.UNDEFINED ? 1 : 0;
      if (truth == Truth.TRUE && (names.isEmpty() || named(facts, account))) {
        picked.add(account);
      }
    }
    String words = where == null ? "been picked" : where;
    inputs.print(new AccountAnswers(inputs.ask()).accounts(picked, words));
    if (undefined > 0) {
      inputs
          .err()
          .println(
              "The filter is undefined for "
                  + undefined
                  + " accounts, which are left out: is an attribute"
                  + " misspelt?");
    }
  }

  private boolean named(Facts facts, int account) {
    return names.stream()
        .anyMatch(
            name ->
                org.sobercompass.sources.NameResolver.find(
                        facts, org.sobercompass.core.facts.SubjectKind.ACCOUNT, name)
                    .contains(account));
  }

  private static Filter parse(String text) {
    String filter = text.startsWith("(") ? text : "(" + text + ")";
    try {
      return FilterParser.parse(filter);
    } catch (FilterSyntaxException e) {
      throw new UsageException("--where: " + e.getMessage());
    }
  }
}
