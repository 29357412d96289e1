package org.sobercompass.cli;

import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.sobercompass.core.access.Asker;
import org.sobercompass.core.access.Batch;
import org.sobercompass.core.access.Can;
import org.sobercompass.core.access.RouteFinder;
import org.sobercompass.core.access.Unknown;
import org.sobercompass.core.admin.Powers;
import org.sobercompass.core.delegation.AdminAction;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.core.system.Limits;
import org.sobercompass.core.system.Verdict;
import org.sobercompass.report.answers.RightAnswers;
import org.sobercompass.report.data.Format;
import org.sobercompass.report.data.RowWriter;
import org.sobercompass.sources.questions.QuestionReader;
import org.sobercompass.sources.questions.QuestionReader.Question;

/** Answers questions in bulk, window by window. A question that cannot be asked is answered so. */
final class CanBatch {
  private static final int WINDOW = 50_000;

  private final Inputs inputs;
  private final boolean why;
  private final Names names;
  private final Asker asker;
  private final Problems problems = new Problems();
  private final List<Question> window = new ArrayList<>();
  private final Map<String, Names.Permission> permissions = new HashMap<>();
  private final Map<String, AdminAction> actions = new HashMap<>();
  private final Map<String, Powers.Thing> things = new HashMap<>();
  private @Nullable Administering administering;

  CanBatch(Inputs inputs, boolean why) {
    this.inputs = inputs;
    this.why = why;
    this.names = inputs.names();
    this.asker = inputs.model().asker();
  }

  int run(@Nullable Path file) {
    List<String> columns = new ArrayList<>(List.of("account", "permission", "node", "answer"));
    if (why) {
      columns.add("why");
    }
    String name = file == null ? "standard input" : file.toString();
    boolean csv = inputs.format == Format.csv || inputs.format == Format.table;
    try (BufferedReader in = open(file);
        RowWriter out =
            csv ? RowWriter.csv(inputs.out(), columns) : RowWriter.jsonl(inputs.out(), columns)) {
      new QuestionReader(name, problems)
          .read(
              in,
              question -> {
                window.add(question);
                if (window.size() == WINDOW) {
                  answer(out);
                }
              });
      answer(out);
    } catch (NoSuchFileException e) {
      problems.error(Place.of(name), "there is no such file", "a file with questions, or -");
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
    inputs.out().flush();
    problems.throwIfErrors();
    return Exit.OK;
  }

  private static BufferedReader open(@Nullable Path file) throws IOException {
    return file == null
        ? new BufferedReader(new InputStreamReader(System.in, StandardCharsets.UTF_8))
        : Files.newBufferedReader(file);
  }

  private void answer(RowWriter out) {
    List<Optional<Act>> acts = new ArrayList<>(window.size());
    List<Optional<Batch.Item>> items = new ArrayList<>(window.size());
    List<Batch.Item> asked = new ArrayList<>(window.size());
    for (Question question : window) {
      boolean act = question.permission().indexOf(':') < 0;
      acts.add(act ? act(question) : Optional.empty());
      Optional<Batch.Item> item = act ? Optional.empty() : item(question);
      items.add(item);
      item.ifPresent(asked::add);
    }
    List<Can> answers = new Batch(asker).answer(asked);
    int next = 0;
    RightAnswers words = new RightAnswers(inputs.ask());
    for (int i = 0; i < window.size(); i++) {
      Question question = window.get(i);
      List<Object> row =
          new ArrayList<>(List.of(question.account(), question.permission(), question.node()));
      Optional<Batch.Item> item = items.get(i);
      Optional<Act> act = acts.get(i);
      if (act.isPresent()) {
        row.add(act.get().verdict.name().toLowerCase(Locale.ROOT));
      } else {
        row.add(item.isEmpty() ? "error" : word(answers.get(next++)));
      }
      if (why) {
        row.add(act.map(a -> a.why).or(() -> item.map(it -> reason(words, it))).orElse(""));
      }
      out.row(row.toArray());
    }
    window.clear();
  }

  /** The answer to a question about an admin action, or a single right, on an object. */
  private record Act(Verdict verdict, String why) {}

  private Optional<Act> act(Question question) {
    try {
      int account = names.account(question.account());
      Administering all = administering();
      AdminAction action = actions.computeIfAbsent(question.permission(), all::action);
      Powers.Thing thing = things.computeIfAbsent(question.node(), all::thing);
      Can can = all.powers().usable(account, action, thing, Optional.empty());
      Verdict verdict = can.verdict();
      String reason =
          !why
              ? ""
              : can.held() != verdict
                  ? String.join("; ", can.standing().reasons())
                  : verdict == Verdict.UNDECIDED
                      ? all.answers().unknown(account, action, thing)
                      : verdict == Verdict.YES ? all.answers().way(account, action, thing) : "";
      return Optional.of(new Act(verdict, reason));
    } catch (UsageException e) {
      String message = e.getMessage() == null ? "" : e.getMessage().split("\n", 2)[0];
      problems.add(Problem.error(question.place(), message, ""));
      return Optional.empty();
    }
  }

  private Administering administering() {
    if (administering == null) {
      administering = new Administering(inputs, null);
    }
    return administering;
  }

  private static String word(Can can) {
    return can.verdict().name().toLowerCase(Locale.ROOT);
  }

  private String reason(RightAnswers words, Batch.Item item) {
    if (item.question().allOf().length > 1) {
      return words.alone(item.view(), item.account(), item.question());
    }
    var routes =
        new RouteFinder(asker, Limits.ONE)
            .find(item.view(), item.account(), item.right(), item.resource());
    boolean undecided = routes.can().verdict() == Verdict.UNDECIDED;
    String state =
        String.join(
            "; ",
            undecided
                ? Unknown.reasons(
                    asker, item.view(), item.account(), item.right(), item.resource(), routes)
                : routes.can().standing().reasons());
    String route = words.why(item.view(), routes).get(0);
    return state.isEmpty() ? route : state + "; " + route;
  }

  private Optional<Batch.Item> item(Question question) {
    try {
      int account = names.account(question.account());
      Names.Permission permission =
          permissions.computeIfAbsent(question.permission(), names::permission);
      int node = names.node(permission.view(), question.node());
      return Optional.of(new Batch.Item(account, permission.view(), permission.at(node)));
    } catch (UsageException e) {
      String message = e.getMessage() == null ? "" : e.getMessage().split("\n", 2)[0];
      problems.add(Problem.error(question.place(), message, ""));
      return Optional.empty();
    }
  }
}
