package org.sobercompass.sources.amendment;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.channels.FileLock;
import java.nio.channels.OverlappingFileLockException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.time.Instant;
import java.time.format.DateTimeParseException;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import org.sobercompass.core.amendment.Journal;
import org.sobercompass.core.problem.BadInputException;
import org.sobercompass.core.problem.OutsideException;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.sources.disk.OwnFiles;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ObjectNode;

/**
 * The journal of an amendment as a file of JSON lines, of which the first says the amendment's
 * digest. Held by one process at a time. A last line that was cut off by the end of a process is
 * taken away: what it was about to say is asked of the system. Not thread-safe.
 */
public final class JournalFile implements Journal.Keeping, AutoCloseable {
  private static final JsonMapper JSON = JsonMapper.shared();

  private final Path file;
  private final FileChannel channel;
  private final List<Journal.Line> before;

  private JournalFile(Path file, FileChannel channel, List<Journal.Line> before) {
    this.file = file;
    this.channel = channel;
    this.before = before;
  }

  /**
   * Opens the journal of a target of an amendment; makes one where there is none.
   *
   * @throws OutsideException when another process works on it, or it cannot be written
   * @throws BadInputException when it is of another amendment, or damaged
   */
  public static JournalFile open(AmendmentFolder amendment, String target) {
    Path file = file(amendment, target);
    try {
      if (!Files.exists(file)) {
        try {
          OwnFiles.create(file).close();
        } catch (java.nio.file.FileAlreadyExistsException e) {
          // Another process was faster; the lock decides.
        }
      }
      FileChannel channel =
          FileChannel.open(file, StandardOpenOption.READ, StandardOpenOption.WRITE);
      JournalFile opened = null;
      try {
        lock(file, channel);
        opened = new JournalFile(file, channel, lines(file, channel, amendment.digest()));
        return opened;
      } finally {
        if (opened == null) {
          channel.close();
        }
      }
    } catch (IOException e) {
      throw OwnFiles.failed(file, e);
    }
  }

  private static Path file(AmendmentFolder amendment, String target) {
    return amendment.path().resolve("journal." + target + ".jsonl");
  }

  /** What the journal of a target says, without holding it; nothing where there is none. */
  public static Journal look(AmendmentFolder amendment, String target) {
    Path file = file(amendment, target);
    List<Journal.Line> lines = new ArrayList<>();
    try {
      if (Files.exists(file)) {
        String text = Files.readString(file);
        lines.addAll(
            parse(file, text.substring(0, text.lastIndexOf('\n') + 1), amendment.digest()));
      }
    } catch (IOException e) {
      throw OwnFiles.failed(file, e);
    }
    return new Journal(lines, NOTHING);
  }

  /** When the last record was made, over all targets; empty when none was. */
  public static Optional<Instant> lastMade(AmendmentFolder amendment) {
    return amendment.amendment().targets().stream()
        .flatMap(target -> look(amendment, target.name()).lines().stream())
        .filter(line -> line.event() == Journal.Event.MADE && !line.undo())
        .map(Journal.Line::at)
        .max(Instant::compareTo);
  }

  private static final Journal.Keeping NOTHING =
      new Journal.Keeping() {
        @Override
        public void keep(List<Journal.Line> lines) {
          throw new IllegalStateException("the journal is only looked at");
        }

        @Override
        public void force() {
          // Nothing was kept.
        }
      };

  private static void lock(Path file, FileChannel channel) throws IOException {
    FileLock lock;
    try {
      lock = channel.tryLock();
    } catch (OverlappingFileLockException e) {
      lock = null;
    }
    if (lock == null) {
      throw new OutsideException(
          Problem.error(
              Place.of(file.toString()),
              "the amendment is being carried out by another process",
              "one at a time"));
    }
  }

  /** All whole lines; the channel then stands after them. */
  private static List<Journal.Line> lines(Path file, FileChannel channel, String digest)
      throws IOException {
    ByteBuffer bytes = ByteBuffer.allocate((int) channel.size());
    while (bytes.hasRemaining() && channel.read(bytes) >= 0) {
      continue;
    }
    String text = new String(bytes.array(), StandardCharsets.UTF_8);
    String whole = text.substring(0, text.lastIndexOf('\n') + 1);
    int length = whole.getBytes(StandardCharsets.UTF_8).length;
    channel.truncate(length);
    channel.position(length);
    if (whole.isEmpty()) {
      ObjectNode first = JSON.createObjectNode().put("amendment", digest);
      write(channel, JSON.writeValueAsString(first) + "\n");
      channel.force(true);
    }
    return parse(file, whole, digest);
  }

  private static List<Journal.Line> parse(Path file, String text, String digest) {
    List<Journal.Line> lines = new ArrayList<>();
    int number = 0;
    for (String line : text.lines().toList()) {
      number++;
      try {
        JsonNode node = JSON.readTree(line);
        if (number == 1) {
          isOf(file, node, digest);
        } else {
          lines.add(line(node));
        }
      } catch (JacksonException | IllegalArgumentException | DateTimeParseException e) {
        throw new BadInputException(
            Problem.error(
                Place.of(file.toString(), number),
                "the line is none of a journal",
                "the journal as it was written"));
      }
    }
    return lines;
  }

  private static void isOf(Path file, JsonNode first, String digest) {
    if (!first.path("amendment").asString("").equals(digest)) {
      throw new BadInputException(
          Problem.error(
              Place.of(file.toString()),
              "the journal is of another amendment",
              "the journal of this one, or none"));
    }
  }

  private static Journal.Line line(JsonNode node) {
    String event = node.path("event").asString("").toUpperCase(Locale.ROOT).replace('-', '_');
    return new Journal.Line(
        Instant.parse(node.path("at").asString("")),
        node.path("record").asInt(0),
        node.path("undo").asBoolean(false),
        Journal.Event.valueOf(event),
        node.path("words").asString(""));
  }

  /** What stood in it when it was opened. */
  public List<Journal.Line> before() {
    return List.copyOf(before);
  }

  @Override
  public void keep(List<Journal.Line> lines) {
    try {
      StringBuilder text = new StringBuilder();
      for (Journal.Line line : lines) {
        ObjectNode node = JSON.createObjectNode();
        node.put("at", line.at().toString()).put("record", line.record());
        node.put("undo", line.undo());
        node.put("event", line.event().name().toLowerCase(Locale.ROOT).replace('_', '-'));
        if (!line.words().isEmpty()) {
          node.put("words", line.words());
        }
        text.append(JSON.writeValueAsString(node)).append('\n');
      }
      write(channel, text.toString());
    } catch (IOException e) {
      throw OwnFiles.failed(file, e);
    }
  }

  private static void write(FileChannel channel, String text) throws IOException {
    ByteBuffer bytes = ByteBuffer.wrap(text.getBytes(StandardCharsets.UTF_8));
    while (bytes.hasRemaining()) {
      channel.write(bytes);
    }
  }

  @Override
  public void force() {
    try {
      channel.force(false);
    } catch (IOException e) {
      throw OwnFiles.failed(file, e);
    }
  }

  @Override
  public void close() {
    try {
      channel.close();
    } catch (IOException e) {
      throw OwnFiles.failed(file, e);
    }
  }
}
