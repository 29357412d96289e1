package org.sobercompass.sources.workspace;

import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.sobercompass.core.facts.Column;
import org.sobercompass.core.facts.Dangling;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.MembershipRows;
import org.sobercompass.core.facts.Via;
import org.sobercompass.core.filter.Matching;
import org.sobercompass.core.filter.Schema;
import org.sobercompass.core.filter.Syntax;
import org.sobercompass.core.problem.Completeness;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.store.IntRows;
import org.sobercompass.core.store.Texts;

/**
 * Facts to bytes and back: plain arrays one after the other. Both directions in one list of calls.
 */
final class FactsCodec {
  private FactsCodec() {}

  static void write(Facts.Arrays a, Out out) {
    out.strings(a.sources());
    out.longs(a.taken());
    out.ints(new int[] {a.accounts(), a.groups(), a.units()});
    out.bytes(a.source());
    out.bytes(a.flags());
    out.longs(a.expires());
    out.ints(a.container());
    for (Texts texts : List.of(a.id(), a.dn(), a.dnForm(), a.login(), a.display(), a.mail())) {
      out.texts(texts);
    }
    out.rows(a.up());
    out.bytes(a.upVia());
    MembershipRows.Down down = a.memberships().down();
    out.rows(down.rows());
    out.bytes(down.via());
    List<String> words = new ArrayList<>();
    for (Dangling d : a.dangling()) {
      words.addAll(List.of("" + d.subject(), "" + d.via().ordinal(), d.text()));
    }
    out.strings(words);
    out.strings(List.copyOf(a.columns().keySet()));
    for (Column column : a.columns().values()) {
      out.rows(column.codes());
      out.texts(column.dictionary());
    }
    words.clear();
    for (Problem p : a.problems()) {
      words.addAll(
          List.of(
              p.severity().name(),
              p.place().file(),
              "" + p.place().line(),
              "" + p.place().column(),
              p.place().entry(),
              p.what(),
              p.expected(),
              p.nearest()));
    }
    out.strings(words);
    words.clear();
    for (Completeness c : a.completeness()) {
      words.addAll(
          List.of(c.source(), c.attribute(), "" + c.asked(), "" + c.returned(), "" + c.withheld()));
    }
    out.strings(words);
    out.strings(words(a.schemas()));
    words.clear();
    new TreeMap<>(a.logins()).forEach((name, login) -> words.addAll(List.of(name, login)));
    out.strings(words);
    out.strings(a.hosts());
    out.ints(a.open());
    out.bytes(a.openVia());
    out.longs(a.passwordEnds());
    out.longs(a.lockedUntil());
  }

  private static List<String> words(Map<String, Schema> schemas) {
    List<String> words = new ArrayList<>();
    for (Map.Entry<String, Schema> schema : new TreeMap<>(schemas).entrySet()) {
      words.addAll(List.of(schema.getKey(), "" + schema.getValue().types().size()));
      for (var type : new TreeMap<>(schema.getValue().types()).entrySet()) {
        Matching m = type.getValue();
        words.addAll(List.of(type.getKey(), m.syntax().name()));
        words.add(
            (m.equality() ? "e" : "") + (m.ordering() ? "o" : "") + (m.substrings() ? "s" : ""));
      }
    }
    return words;
  }

  private static Map<String, Schema> schemas(List<String> words) {
    Map<String, Schema> schemas = new TreeMap<>();
    int at = 0;
    while (at < words.size()) {
      String name = words.get(at);
      int end = at + 2 + 3 * number(words, at + 1);
      Map<String, Matching> types = new TreeMap<>();
      for (at += 2; at < end; at += 3) {
        String rules = words.get(at + 2);
        types.put(
            words.get(at),
            new Matching(
                Syntax.valueOf(words.get(at + 1)),
                rules.contains("e"),
                rules.contains("o"),
                rules.contains("s")));
      }
      schemas.put(name, new Schema(types));
    }
    return schemas;
  }

  static Facts.Arrays read(In in) {
    List<String> sources = in.strings();
    long[] taken = in.longs();
    int[] counts = in.ints();
    byte[] source = in.bytes();
    byte[] flags = in.bytes();
    long[] expires = in.longs();
    int[] container = in.ints();
    Texts[] texts = new Texts[6];
    for (int i = 0; i < texts.length; i++) {
      texts[i] = in.texts();
    }
    IntRows up = in.rows();
    byte[] upVia = in.bytes();
    In members = in.later();
    in.skip(Integer.BYTES);
    in.skip(Integer.BYTES);
    in.skip(Byte.BYTES);
    List<Dangling> dangling = new ArrayList<>();
    List<String> words = in.strings();
    for (int i = 0; i < words.size(); i += 3) {
      dangling.add(new Dangling(number(words, i), Via.of(number(words, i + 1)), words.get(i + 2)));
    }
    Map<String, Column> columns = new TreeMap<>();
    for (String name : in.strings()) {
      columns.put(name, new Column(in.rows(), in.texts()));
    }
    return new Facts.Arrays(
        sources,
        taken,
        counts[0],
        counts[1],
        counts[2],
        source,
        flags,
        expires,
        container,
        texts[0],
        texts[1],
        texts[2],
        texts[3],
        texts[4],
        texts[5],
        new MembershipRows(
            up, upVia, () -> new MembershipRows.Down(members.rows(), members.bytes())),
        List.copyOf(dangling),
        columns,
        problems(in.strings()),
        completeness(in.strings()),
        schemas(in.strings()),
        logins(in.strings()),
        in.strings(),
        in.ints(),
        in.bytes(),
        in.longs(),
        in.longs());
  }

  private static Map<String, String> logins(List<String> words) {
    Map<String, String> logins = new TreeMap<>();
    for (int i = 0; i < words.size(); i += 2) {
      logins.put(words.get(i), words.get(i + 1));
    }
    return logins;
  }

  private static List<Problem> problems(List<String> w) {
    List<Problem> problems = new ArrayList<>();
    for (int i = 0; i < w.size(); i += 8) {
      Place place = new Place(w.get(i + 1), number(w, i + 2), number(w, i + 3), w.get(i + 4));
      problems.add(
          new Problem(
              Problem.Severity.valueOf(w.get(i)), place, w.get(i + 5), w.get(i + 6), w.get(i + 7)));
    }
    return List.copyOf(problems);
  }

  private static List<Completeness> completeness(List<String> w) {
    List<Completeness> all = new ArrayList<>();
    for (int i = 0; i < w.size(); i += 5) {
      all.add(
          new Completeness(
              w.get(i), w.get(i + 1), number(w, i + 2), number(w, i + 3), number(w, i + 4)));
    }
    return List.copyOf(all);
  }

  private static int number(List<String> words, int at) {
    return Integer.parseInt(words.get(at));
  }

  /** Takes arrays. */
  interface Out {
    void raw(ByteBuffer bytes);

    default void bytes(byte[] bytes) {
      size(bytes.length);
      raw(ByteBuffer.wrap(bytes));
    }

    default void size(int size) {
      raw(ByteBuffer.allocate(4).putInt(0, size));
    }

    default void ints(int[] items) {
      size(items.length);
      int step = 1 << 18;
      for (int from = 0; from < items.length; from += step) {
        int count = Math.min(step, items.length - from);
        ByteBuffer buffer = ByteBuffer.allocate(count * 4);
        buffer.asIntBuffer().put(items, from, count);
        raw(buffer);
      }
    }

    default void longs(long[] items) {
      size(items.length);
      int step = 1 << 17;
      for (int from = 0; from < items.length; from += step) {
        int count = Math.min(step, items.length - from);
        ByteBuffer buffer = ByteBuffer.allocate(count * 8);
        buffer.asLongBuffer().put(items, from, count);
        raw(buffer);
      }
    }

    default void rows(IntRows rows) {
      ints(rows.rawOffsets());
      ints(rows.rawTargets());
    }

    default void texts(Texts texts) {
      longs(texts.rawEnds());
      size(texts.rawSlabs().length);
      for (byte[] slab : texts.rawSlabs()) {
        bytes(slab);
      }
    }

    default void strings(List<String> strings) {
      size(strings.size());
      strings.forEach(s -> bytes(s.getBytes(StandardCharsets.UTF_8)));
    }
  }

  /** Gives arrays back. Sizes that do not fit what is left fail as a buffer underflow. */
  record In(ByteBuffer buffer) {
    private int size(int each) {
      int size = buffer.getInt();
      if (size < 0 || (long) size * each > buffer.remaining()) {
        throw new java.nio.BufferUnderflowException();
      }
      return size;
    }

    /** What comes next, to be read when it is asked for; it must be skipped here. */
    In later() {
      return new In(buffer.duplicate());
    }

    /** Skips an array of items of so many bytes each. */
    void skip(int each) {
      int size = size(each);
      buffer.position(buffer.position() + size * each);
    }

    byte[] bytes() {
      byte[] out = new byte[size(1)];
      buffer.get(out);
      return out;
    }

    int[] ints() {
      int[] out = new int[size(4)];
      buffer.asIntBuffer().get(out);
      buffer.position(buffer.position() + out.length * 4);
      return out;
    }

    long[] longs() {
      long[] out = new long[size(8)];
      buffer.asLongBuffer().get(out);
      buffer.position(buffer.position() + out.length * 8);
      return out;
    }

    IntRows rows() {
      return new IntRows(ints(), ints());
    }

    Texts texts() {
      long[] ends = longs();
      byte[][] slabs = new byte[size(4)][];
      for (int i = 0; i < slabs.length; i++) {
        slabs[i] = bytes();
      }
      return Texts.ofRaw(ends, slabs);
    }

    List<String> strings() {
      int size = size(4);
      List<String> out = new ArrayList<>(size);
      for (int i = 0; i < size; i++) {
        out.add(new String(bytes(), StandardCharsets.UTF_8));
      }
      return out;
    }
  }
}
