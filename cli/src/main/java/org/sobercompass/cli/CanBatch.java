package org.sobercompass.cli;

import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.Iterator;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.sobercompass.core.access.Asker;
import org.sobercompass.core.access.Batch;
import org.sobercompass.core.access.Can;
import org.sobercompass.core.admin.Asked;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.core.problem.UnknownNameException;
import org.sobercompass.organization.Names;
import org.sobercompass.organization.Organization;
import org.sobercompass.report.answers.AskedAnswers;
import org.sobercompass.report.data.Format;
import org.sobercompass.report.data.RowWriter;
import org.sobercompass.sources.disk.OwnFiles;
import org.sobercompass.sources.questions.QuestionReader;
import org.sobercompass.sources.questions.QuestionReader.Question;

/** Answers questions in bulk, window by window. A question that cannot be asked is answered so. */
final class CanBatch {
  private static final int WINDOW = 50_000;

  private final Inputs inputs;
  private final boolean why;
  private final Names names;
  private final Asker asker;
  private final AskedAnswers words;
  private final Problems problems = new Problems();
  private final List<Question> window = new ArrayList<>();
  private final Map<String, Asked.Use> rights = new HashMap<>();
  private final Map<String, Asked> acts = new HashMap<>();

  CanBatch(Inputs inputs, boolean why) {
    this.inputs = inputs;
    this.why = why;
    this.names = inputs.names();
    this.asker = inputs.model().asker();
    this.words = inputs.answers();
  }

  int run(@Nullable Path file) {
    List<String> columns = new ArrayList<>(List.of("account", "permission", "node", "answer"));
    if (why) {
      columns.add("why");
    }
    String name = file == null ? "standard input" : file.toString();
    inputs.noWorkbook();
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
    } catch (CharacterCodingException e) {
      problems.error(Place.of(name), "the bytes are not UTF-8", "questions in UTF-8");
    } catch (IOException e) {
      problems.error(
          Place.of(name),
          "the questions cannot be read: " + OwnFiles.reason(e),
          "a file with questions, or -");
    }
    inputs.out().flush();
    problems.throwIfErrors();
    return Exit.OK;
  }

  private static BufferedReader open(@Nullable Path file) throws IOException {
    return file == null
        ? new BufferedReader(new InputStreamReader(System.in, StandardCharsets.UTF_8.newDecoder()))
        : new BufferedReader(
            new InputStreamReader(Files.newInputStream(file), StandardCharsets.UTF_8.newDecoder()));
  }

  private void answer(RowWriter out) {
    List<Optional<Pending>> pending = new ArrayList<>(window.size());
    List<Batch.Item> items = new ArrayList<>(window.size());
    for (Question question : window) {
      Optional<Pending> one = resolved(question);
      pending.add(one);
      one.filter(p -> p.asked instanceof Asked.Use)
          .ifPresent(
              p -> {
                Asked.Use use = (Asked.Use) p.asked;
                items.add(new Batch.Item(p.account, use.view(), use.question()));
              });
    }
    Organization organization = inputs.organization();
    Iterator<Can> answers = new Batch(asker).answer(items).iterator();
    for (int i = 0; i < window.size(); i++) {
      Question question = window.get(i);
      List<Object> row =
          new ArrayList<>(List.of(question.account(), question.permission(), question.node()));
      Optional<Pending> one = pending.get(i);
      Optional<Can> can =
          one.map(
              p ->
                  p.asked instanceof Asked.Use
                      ? answers.next()
                      : organization.can(organization.account(p.account), p.asked));
      row.add(can.map(CanBatch::word).orElse("error"));
      if (why) {
        row.add(one.map(p -> words.reason(p.account, p.asked, can.orElseThrow())).orElse(""));
      }
      out.row(row.toArray());
    }
    window.clear();
  }

  /** A question whose names were found. */
  private record Pending(int account, Asked asked) {}

  private Optional<Pending> resolved(Question question) {
    try {
      int account = names.account(question.account());
      return Optional.of(new Pending(account, asked(question)));
    } catch (UnknownNameException e) {
      String message = e.getMessage() == null ? "" : e.getMessage().split("\n", 2)[0];
      problems.add(Problem.error(question.place(), message, ""));
      return Optional.empty();
    }
  }

  private Asked asked(Question question) {
    String what = question.permission();
    return what.indexOf(':') < 0
        ? acts.computeIfAbsent(
            what + "\n" + question.node(), k -> names.asked(what, question.node()))
        : names.at(rights.computeIfAbsent(what, names::rights), question.node());
  }

  private static String word(Can can) {
    return can.verdict().name().toLowerCase(Locale.ROOT);
  }
}
