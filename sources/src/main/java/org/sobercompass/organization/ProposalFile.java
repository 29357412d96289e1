package org.sobercompass.organization;

import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.ServiceLoader;
import java.util.Set;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.core.problem.UnknownNameException;
import org.sobercompass.core.proposal.Proposal;
import org.sobercompass.core.proposal.Step;
import org.sobercompass.core.proposal.Step.Assignment;
import org.sobercompass.sources.ProposalForm;
import org.sobercompass.sources.text.CsvReader;
import org.sobercompass.sources.text.Node;
import org.sobercompass.sources.text.TextFiles;
import org.sobercompass.sources.text.Window;
import org.sobercompass.sources.text.YamlReader;
import org.sobercompass.sources.text.YesNo;

/**
 * Proposals as files: YAML of our own, CSV with the columns of assignments, and LDIF change records
 * (RFC 2849). What cannot be read is told with its place, all of it at once. Not thread-safe.
 */
final class ProposalFile {
  private static final List<String> COLUMNS =
      List.of(
          "change",
          "application",
          "role",
          "kind",
          "subject",
          "node",
          "descendants",
          "from",
          "until",
          "on",
          "scope",
          "groups");
  private static final List<String> CHANGES = List.of("assign", "withdraw", "include", "except");

  private Organization organization;
  private final Problems problems = new Problems();
  private final List<Step> steps = new ArrayList<>();
  private final String name;

  ProposalFile(Organization organization, String name) {
    this.organization = organization;
    this.name = name;
  }

  /**
   * Reads a proposal, by the ending of its name.
   *
   * @throws org.sobercompass.core.problem.BadInputException when something in it cannot be read
   */
  Proposal read(Path file) {
    String ending = name.toLowerCase(Locale.ROOT).replaceFirst(".*[.]", "");
    String called = "";
    switch (ending) {
      case "csv" ->
          new CsvReader(name, COLUMNS, List.of("subject"), problems).read(file, this::row);
      case "ldif" ->
          TextFiles.stream(
              file, name, problems, in -> new ProposalLdif(this, name, problems).read(in));
      case "yaml", "yml" -> {
        Node node = YamlReader.read(file, name, problems).orElseGet(Node::nothing);
        called = node.only(Set.of("name", "changes")).text("name").orElse("");
        List<Node> all = node.get("changes").map(Node::items).orElse(List.of());
        ProposalItems items = new ProposalItems(this, problems);
        List<Step> coming = new ArrayList<>();
        for (Node item : all) {
          items.created(item).map(Creation::step).ifPresent(coming::add);
          told(item.place(), () -> items.written(item).ifPresent(coming::add));
        }
        problems.throwIfErrors();
        organization = organization.expecting(new Proposal("", coming));
        all.forEach(item -> told(item.place(), () -> items.read(item).ifPresent(steps::add)));
      }
      default -> other(file, ending);
    }
    if (problems.errors() == 0 && steps.isEmpty()) {
      problems.error(Place.of(name), "there is no change in it", "at least one");
    }
    problems.throwIfErrors();
    boolean admin =
        steps.stream()
            .anyMatch(
                step ->
                    step instanceof Step.Assign assign
                        && organization.model().system(assign.what().application()).isEmpty());
    return new Proposal(called, steps)
        .switching(admin ? organization.assessment().model() : organization.model());
  }

  /** A form that a kind of system registers. */
  private void other(Path file, String ending) {
    List<ProposalForm> forms =
        ServiceLoader.load(ProposalForm.class).stream().map(ServiceLoader.Provider::get).toList();
    Optional<ProposalForm> form =
        forms.stream().filter(one -> one.ending().equals(ending)).findFirst();
    if (form.isPresent()) {
      form.get().read(file, name, organization.assessment().model(), problems, steps::add);
      return;
    }
    StringBuilder expected =
        new StringBuilder(".yaml, .csv with the columns of assignments, .ldif with change records");
    forms.forEach(
        one -> expected.append(", .").append(one.ending()).append(" with ").append(one.words()));
    problems.error(
        Place.of(name),
        "the ending " + Problem.quote(ending) + " says no form of a proposal",
        expected.toString());
  }

  private void row(CsvReader.Row row) {
    String change = row.get("change").isEmpty() ? "assign" : row.get("change");
    if (!CHANGES.contains(change)) {
      problems.unknown(
          row.place(),
          Problem.quote(change) + " is no change",
          String.join(", ", CHANGES) + ", or nothing, which is assign",
          change,
          CHANGES);
      return;
    }
    boolean ofScope = List.of("include", "except").contains(change);
    if (!isWhole(row, ofScope)) {
      return;
    }
    String kind = row.get("kind").isEmpty() ? "account" : row.get("kind");
    if (ofScope) {
      told(row.place(), () -> inScope(change.equals("include"), kind, row));
      return;
    }
    told(
        row.place(),
        () -> {
          Written what =
              new Written(
                  row.get("scope").isEmpty() ? row.get("application") : "admin",
                  row.get("role"),
                  kind + " " + row.get("subject"),
                  row.get("scope").isEmpty() ? row.get("node") : row.get("scope"),
                  row.get("descendants"),
                  row.get("from"),
                  row.get("until"),
                  row.get("on"));
          steps.addAll(steps(what, change.equals("assign"), row.place()));
        });
  }

  /** Whether a row says all that its change needs; told when it does not. */
  private boolean isWhole(CsvReader.Row row, boolean ofScope) {
    List<String> needed =
        ofScope
            ? List.of("scope")
            : row.get("scope").isEmpty() ? List.of("application", "role") : List.of("role");
    List<String> missing = needed.stream().filter(column -> row.get(column).isEmpty()).toList();
    missing.forEach(
        column ->
            problems.error(
                row.place(), "it does not say which " + column, "a value in that column"));
    return missing.isEmpty();
  }

  private void inScope(boolean include, String kind, CsvReader.Row row) {
    int subject = organization.names().subject(kind + " " + row.get("subject"));
    steps.addAll(
        organization.names().inScope(row.get("scope"), subject, row.get("groups"), include));
  }

  /** An assignment as it was typed. */
  record Written(
      String application,
      String role,
      String subject,
      String node,
      String below,
      String from,
      String until,
      String on) {}

  /** From here on names of what is created are known too. */
  void expect(List<Creation> created) {
    problems.throwIfErrors();
    organization =
        organization.expecting(
            new Proposal("", created.stream().<Step>map(Creation::step).toList()));
  }

  /** A step more. */
  void add(Step step) {
    steps.add(step);
  }

  /** What names are looked up in. */
  Organization organization() {
    return organization;
  }

  /** Does something; a name that is not there is told with a place. */
  void told(Place place, Runnable step) {
    try {
      step.run();
    } catch (UnknownNameException e) {
      problems.error(place, String.valueOf(e.getMessage()), "a name that is there");
    }
  }

  private List<Step> steps(Written what, boolean gives, Place place) {
    Mapping mapping = organization.names().mapping();
    Optional<SystemView> lists = mapping.lists(what.application);
    if (lists.isEmpty()) {
      Assignment assignment = assignment(what, place);
      return List.of(gives ? new Step.Assign(assignment) : new Step.Withdraw(assignment));
    }
    return gives
        ? mapping.giving(
            what.application,
            what.role,
            what.subject,
            what.node,
            below(what, place),
            window(what, place))
        : mapping.taking(lists.get(), what.role, what.subject, what.node);
  }

  private boolean below(Written written, Place place) {
    return yes(written.below, "whether it counts below", place);
  }

  private boolean yes(String word, String expected, Place place) {
    Optional<Boolean> yes = word.isEmpty() ? Optional.of(true) : YesNo.parse(word);
    if (yes.isEmpty()) {
      problems.error(place, Problem.quote(word) + " is neither yes nor no", expected);
    }
    return yes.orElse(true);
  }

  private Window window(Written written, Place place) {
    return Window.read(
        written.from, written.until, organization.workspace().zone(), place, problems);
  }

  /** An assignment by the names that people use; what else is wrong with it is told. */
  Assignment assignment(Written written, Place place) {
    return organization
        .names()
        .assignment(
            written.application,
            written.role,
            written.subject,
            written.node,
            below(written, place),
            window(written, place))
        .switched(yes(written.on, "whether it is switched on", place));
  }

  /** The moment at which a day ends, or an instant; told when it is neither. */
  Optional<Instant> lastMoment(String written, Place place) {
    return Window.read("", written, organization.workspace().zone(), place, problems).until();
  }

  /** The key of what is called so; a key as it stands, since who bears it may be gone. */
  Key subject(String written) {
    Optional<Key> key = Key.read(written);
    if (key.isPresent() && !key.get().source().isEmpty()) {
      return key.get();
    }
    return organization.model().facts().key(organization.names().subject(written));
  }
}
