package org.sobercompass.sources.amendment;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashMap;
import java.util.HexFormat;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import org.sobercompass.core.amendment.Amendment;
import org.sobercompass.core.amendment.AmendmentRecord;
import org.sobercompass.core.audit.Foretold;
import org.sobercompass.core.problem.BadInputException;
import org.sobercompass.core.problem.OutsideException;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Plain;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.sources.TargetKind;
import org.sobercompass.sources.TargetKinds;
import org.sobercompass.sources.disk.OwnFiles;

/**
 * The folder of an amendment: {@code amendment.json} says what it is and the digest of every other
 * file, {@code records.jsonl} has the records, and each system has its files, there and back.
 *
 * @param path where it is
 * @param amendment what is in it
 * @param foretold what its preview said
 * @param digest SHA-256 (FIPS 180-4) of {@code amendment.json}, in hexadecimal
 */
public record AmendmentFolder(Path path, Amendment amendment, Foretold foretold, String digest) {
  private static final String HEAD = "amendment.json";
  private static final String RECORDS = "records.jsonl";
  private static final String FORETOLD = "foretold.json";

  /**
   * Writes an amendment into a new folder, for its owner only.
   *
   * @param foretold what its preview says
   * @param preview the same, for people
   * @throws OutsideException when the folder is there already, or cannot be written
   */
  public static AmendmentFolder write(
      Amendment amendment, Foretold foretold, String preview, Path folder) {
    if (Files.exists(folder)) {
      throw new OutsideException(
          Problem.error(
              Place.of(folder.toString()),
              "there is something already",
              "the name of a new folder"));
    }
    Map<String, String> files = new TreeMap<>();
    files.put(RECORDS, AmendmentText.records(amendment.records()));
    files.put(FORETOLD, AmendmentText.foretold(foretold));
    files.put("preview.txt", preview);
    files.put("README.txt", readMe(amendment));
    for (Amendment.Target target : amendment.targets()) {
      TargetKinds.of(target.kind())
          .ifPresent(
              kind -> {
                List<AmendmentRecord> records = amendment.of(target.name());
                files.put(target.name() + kind.form().ending(), kind.text(records));
                files.put(target.name() + ".undo" + kind.form().ending(), kind.text(back(records)));
              });
    }
    OwnFiles.folder(folder);
    Map<String, String> digests = new LinkedHashMap<>();
    files.forEach(
        (name, text) -> {
          OwnFiles.write(folder.resolve(name), text);
          digests.put(name, digest(text.getBytes(StandardCharsets.UTF_8)));
        });
    String head = AmendmentText.head(amendment, digests);
    // Last, so that a folder without it is known to be unfinished.
    OwnFiles.write(folder.resolve(HEAD), head);
    return new AmendmentFolder(
        folder, amendment, foretold, digest(head.getBytes(StandardCharsets.UTF_8)));
  }

  /** What takes records back, the last first. */
  private static List<AmendmentRecord> back(List<AmendmentRecord> records) {
    List<AmendmentRecord> back = new ArrayList<>();
    records.forEach(record -> back.add(record.inverse()));
    Collections.reverse(back);
    return back;
  }

  private static String readMe(Amendment amendment) {
    StringBuilder out = new StringBuilder();
    out.append("What this folder does is in preview.txt. It rests on ")
        .append(amendment.restsOn())
        .append(
            ".\n\nTo carry it out: sober carry-out FOLDER --on SYSTEM --at WHERE --as WHO --write")
        .append("\nTo take it back:  the same with --undo")
        .append("\n\nWithout that program, in the order of the systems below:\n");
    for (Amendment.Target target : amendment.targets()) {
      TargetKinds.of(target.kind()).ifPresent(kind -> readMe(target, kind, out));
    }
    List<String> losses = TargetKinds.losses(amendment, amendment.records());
    if (!losses.isEmpty()) {
      out.append("\nWhat no undo brings back whole; carry-out asks for --accept-loss:\n");
      losses.forEach(line -> out.append("  ").append(Plain.text(line)).append('\n'));
    }
    if (!amendment.byHand().isEmpty()) {
      out.append("\nTo be done by hand:\n");
      amendment.byHand().forEach(line -> out.append("  ").append(line).append('\n'));
    }
    return out.toString();
  }

  private static void readMe(Amendment.Target target, TargetKind kind, StringBuilder out) {
    String file = target.name() + kind.form().ending();
    String undo = target.name() + ".undo" + kind.form().ending();
    out.append("\n")
        .append(target.name())
        .append(": ")
        .append(kind.form().words())
        .append("\n  there: ")
        .append(kind.form().command(file))
        .append("\n  back:  ")
        .append(kind.form().command(undo))
        .append('\n');
  }

  /**
   * Reads an amendment.
   *
   * @throws BadInputException when something in it was changed, or is missing; all of it at once
   */
  public static AmendmentFolder read(Path folder) {
    Problems problems = new Problems();
    String name = folder.toString();
    Optional<String> head = text(folder.resolve(HEAD));
    if (head.isEmpty()) {
      problems.error(
          Place.of(name), "there is no amendment here", "a folder that `sober amend` wrote");
      problems.throwIfErrors();
    }
    Map<String, String> digests = AmendmentText.digests(head.orElseThrow(), name, problems);
    problems.throwIfErrors();
    Map<String, String> texts = new HashMap<>();
    for (Map.Entry<String, String> one : digests.entrySet()) {
      Optional<String> text = text(folder.resolve(one.getKey()));
      boolean same =
          text.isPresent()
              && digest(text.get().getBytes(StandardCharsets.UTF_8)).equals(one.getValue());
      if (!same) {
        problems.error(
            Place.of(name + "/" + one.getKey()),
            text.isEmpty() ? "the file is missing" : "the file was changed since it was written",
            "the amendment as it was written; make it again where it is to be another");
      } else {
        texts.put(one.getKey(), text.get());
      }
    }
    problems.throwIfErrors();
    String records = texts.getOrDefault(RECORDS, "");
    Amendment amendment = AmendmentText.read(head.orElseThrow(), records, name, problems);
    problems.throwIfErrors();
    return new AmendmentFolder(
        folder,
        amendment,
        AmendmentText.foretold(texts.getOrDefault(FORETOLD, "{}")),
        digest(head.orElseThrow().getBytes(StandardCharsets.UTF_8)));
  }

  private static Optional<String> text(Path file) {
    try {
      return Files.isRegularFile(file) ? Optional.of(Files.readString(file)) : Optional.empty();
    } catch (IOException e) {
      return Optional.empty();
    }
  }

  static String digest(byte[] bytes) {
    try {
      return HexFormat.of().formatHex(MessageDigest.getInstance("SHA-256").digest(bytes));
    } catch (NoSuchAlgorithmException e) {
      throw new IllegalStateException(e);
    }
  }
}
