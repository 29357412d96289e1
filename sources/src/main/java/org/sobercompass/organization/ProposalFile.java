package org.sobercompass.organization;

import com.unboundid.ldap.sdk.Modification;
import com.unboundid.ldif.LDIFChangeRecord;
import com.unboundid.ldif.LDIFException;
import com.unboundid.ldif.LDIFModifyChangeRecord;
import com.unboundid.ldif.LDIFReader;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.ServiceLoader;
import java.util.Set;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.core.problem.UnknownNameException;
import org.sobercompass.core.proposal.Proposal;
import org.sobercompass.core.proposal.Step;
import org.sobercompass.core.proposal.Step.Assignment;
import org.sobercompass.sources.NameResolver;
import org.sobercompass.sources.ProposalForm;
import org.sobercompass.sources.directory.AccountStates;
import org.sobercompass.sources.directory.DnForm;
import org.sobercompass.sources.text.CsvReader;
import org.sobercompass.sources.text.Node;
import org.sobercompass.sources.text.TextFiles;
import org.sobercompass.sources.text.Window;
import org.sobercompass.sources.text.YamlReader;
import org.sobercompass.sources.text.YesNo;

/**
 * Proposals as files: YAML of our own, CSV with the columns of assignments, and LDIF change records
 * (RFC 2849) of groups. What cannot be read is told with its place, all of it at once. Not
 * thread-safe.
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
          "scope",
          "groups");
  private static final List<String> CHANGES = List.of("assign", "withdraw", "include", "except");
  private static final Set<String> MEMBERS = Set.of("member", "uniquemember", "memberuid");

  private final Organization organization;
  private final Facts facts;
  private final Problems problems = new Problems();
  private final List<Step> steps = new ArrayList<>();
  private final String name;

  ProposalFile(Organization organization, String name) {
    this.organization = organization;
    this.facts = organization.model().facts();
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
      case "ldif" -> TextFiles.stream(file, name, problems, in -> ldif(new LDIFReader(in)));
      case "yaml", "yml" -> {
        Node node = YamlReader.read(file, name, problems).orElseGet(Node::nothing);
        called = node.only(Set.of("name", "changes")).text("name").orElse("");
        ProposalItems items = new ProposalItems(this, problems);
        node.get("changes")
            .map(Node::items)
            .orElse(List.of())
            .forEach(item -> told(item.place(), () -> items.read(item).ifPresent(steps::add)));
      }
      default -> other(file, ending);
    }
    if (problems.errors() == 0 && steps.isEmpty()) {
      problems.error(Place.of(name), "there is no change in it", "at least one");
    }
    problems.throwIfErrors();
    return new Proposal(called, steps);
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
                  row.get("until"));
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
    steps.addAll(organization.inScope(row.get("scope"), subject, row.get("groups"), include));
  }

  /** An assignment as it was typed. */
  record Written(
      String application,
      String role,
      String subject,
      String node,
      String below,
      String from,
      String until) {}

  private void told(Place place, Runnable step) {
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
    Optional<Boolean> below =
        written.below.isEmpty() ? Optional.of(true) : YesNo.parse(written.below);
    if (below.isEmpty()) {
      problems.error(
          place,
          Problem.quote(written.below) + " is neither yes nor no",
          "whether it counts below");
    }
    return below.orElse(true);
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
            window(written, place));
  }

  /** The moment at which a day ends, or an instant; told when it is neither. */
  Optional<Instant> lastMoment(String written, Place place) {
    return Window.read("", written, organization.workspace().zone(), place, problems).until();
  }

  /** The key of what is called so. */
  Key subject(String written) {
    return facts.key(organization.names().subject(written));
  }

  private void ldif(LDIFReader reader) throws IOException {
    try {
      for (LDIFChangeRecord record = reader.readChangeRecord();
          record != null;
          record = reader.readChangeRecord()) {
        LDIFChangeRecord one = record;
        told(Place.of(name).entry(record.getDN()), () -> record(one));
      }
    } catch (LDIFException e) {
      problems.error(
          Place.of(name, (int) e.getLineNumber()),
          "from here on this is no LDIF with change records",
          "changetype: and what it changes, as in RFC 2849");
    }
  }

  private void record(LDIFChangeRecord record) {
    Place place = Place.of(name).entry(record.getDN());
    if (!(record instanceof LDIFModifyChangeRecord modify)) {
      problems.error(
          place,
          "a change of type "
              + record.getChangeType().getName()
              + " cannot be shown in its effects yet",
          "changetype: modify, of the members of a group or the state of an account");
      return;
    }
    List<Integer> accounts = NameResolver.find(facts, SubjectKind.ACCOUNT, record.getDN());
    if (accounts.size() == 1) {
      state(accounts.get(0), modify, place);
    } else {
      members(facts.key(organization.names().group(record.getDN())), modify, place);
    }
  }

  /** Whether the account is disabled, and when it ends. */
  private void state(int account, LDIFModifyChangeRecord modify, Place place) {
    for (Modification change : modify.getModifications()) {
      AccountStates.Told told = AccountStates.told(change.getAttribute());
      told.disabled()
          .ifPresent(disabled -> steps.add(new Step.Disable(facts.key(account), disabled)));
      told.ends().ifPresent(ends -> steps.add(Step.Ends.of(facts, account, ends)));
      if (told.isNothing()) {
        problems.error(
            place,
            "a change of " + change.getAttributeName() + " cannot be shown in its effects yet",
            "a change of " + String.join(", ", AccountStates.ATTRIBUTES));
      }
    }
  }

  private void members(Key group, LDIFModifyChangeRecord modify, Place place) {
    for (Modification change : modify.getModifications()) {
      String kind = change.getModificationType().getName().toLowerCase(Locale.ROOT);
      boolean members = MEMBERS.contains(change.getAttributeName().toLowerCase(Locale.ROOT));
      boolean plain = kind.equals("add") || (kind.equals("delete") && change.hasValue());
      if (!members || !plain) {
        problems.error(
            place,
            kind + " of " + change.getAttributeName() + " cannot be shown in its effects yet",
            "add: or delete: of member, uniqueMember or memberUid, with values");
        continue;
      }
      for (String value : change.getValues()) {
        Key member = memberOf(value);
        steps.add(
            kind.equals("add") ? new Step.Join(member, group) : new Step.Leave(member, group));
      }
    }
  }

  /** A member by its DN or its login. */
  private Key memberOf(String value) {
    boolean group =
        DnForm.isDn(value) && !NameResolver.find(facts, SubjectKind.GROUP, value).isEmpty();
    return subject((group ? "group " : "account ") + value);
  }
}
