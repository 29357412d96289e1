package org.sobercompass.core.system;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.BitSet;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.store.IntList;
import org.sobercompass.core.store.IntRows;

/**
 * Whom the lists name: each spelling once, with the subject it stands for. Number 0 is everybody
 * who comes at all. Frozen and thread-safe.
 */
public final class Trustees {
  /** Everybody who comes at all. */
  public static final int EVERYONE = 0;

  private final List<String> texts;
  private final List<String> labels;
  private final int[] subjects;
  private final IntRows bySubject;
  private final IntRows byTrustee;
  private final BitSet known;
  private final BitSet open;
  private final BitSet earlier;
  private final Map<String, Integer> byText;

  private Trustees(Builder builder) {
    texts = List.copyOf(builder.texts);
    labels = List.copyOf(builder.labels);
    subjects = builder.subjects.toArray();
    byText = Map.copyOf(builder.byText);
    bySubject = IntRows.ofPairs(builder.facts.subjects(), builder.pairSubject, builder.pairTrustee);
    byTrustee = IntRows.ofPairs(subjects.length, builder.pairTrustee, builder.pairSubject);
    known = (BitSet) builder.known.clone();
    open = (BitSet) builder.open.clone();
    earlier = (BitSet) builder.earlier.clone();
  }

  /** Those of others, with the same numbers, and one more. */
  private Trustees(Trustees of, String text, String label, List<Integer> subjectsOf) {
    texts = plus(of.texts, text);
    labels = plus(of.labels, label);
    subjects = Arrays.copyOf(of.subjects, of.subjects.length + 1);
    subjects[of.size()] = subjectsOf.get(0);
    IntList pairTrustee = new IntList();
    IntList pairSubject = new IntList();
    for (int trustee = 0; trustee < of.size(); trustee++) {
      for (int subject : of.byTrustee.row(trustee)) {
        pairTrustee.add(trustee);
        pairSubject.add(subject);
      }
    }
    for (int subject : subjectsOf) {
      pairTrustee.add(of.size());
      pairSubject.add(subject);
    }
    bySubject = IntRows.ofPairs(of.bySubject.rows(), pairSubject, pairTrustee);
    byTrustee = IntRows.ofPairs(subjects.length, pairTrustee, pairSubject);
    known = of.known;
    open = of.open;
    earlier = of.earlier;
    Map<String, Integer> numbers = new HashMap<>(of.byText);
    numbers.put(text, of.size());
    byText = Map.copyOf(numbers);
  }

  private static List<String> plus(List<String> texts, String text) {
    List<String> more = new ArrayList<>(texts);
    more.add(text);
    return List.copyOf(more);
  }

  /**
   * The same with one more, which gets the next number. O(trustees).
   *
   * @param subjectsOf who counts as it; at least one
   */
  public Trustees with(String text, String label, List<Integer> subjectsOf) {
    return new Trustees(this, text, label, subjectsOf);
  }

  /** How many there are. */
  public int size() {
    return subjects.length;
  }

  /** How a trustee is written in the lists. */
  public String text(int trustee) {
    return texts.get(trustee);
  }

  /** A trustee for people. */
  public String label(int trustee) {
    return labels.get(trustee);
  }

  /** The subject it stands for, or {@link Grant#MISSING}. */
  public int subject(int trustee) {
    return subjects[trustee];
  }

  /** Whether anybody may count as some trustee. */
  public boolean hasOpen() {
    return !open.isEmpty();
  }

  /** Whether it should stand for somebody of a directory, and nobody is there. */
  public boolean isMissing(int trustee) {
    return subjects[trustee] < 0 && !known.get(trustee);
  }

  /** Whether nothing is known of who counts as a trustee. */
  public boolean isOpen(int trustee) {
    return open.get(trustee);
  }

  /** Whether it is written by an id that its subject kept from an earlier directory. */
  public boolean isEarlier(int trustee) {
    return earlier.get(trustee);
  }

  /** Sets a bit for each trustee of whom it is not known who counts as it. */
  public void markOpen(long[] bits) {
    for (int t = open.nextSetBit(0); t >= 0; t = open.nextSetBit(t + 1)) {
      bits[t >> 6] |= 1L << t;
    }
  }

  /** The trustee written like this, or -1. */
  public int find(String text) {
    return byText.getOrDefault(text, -1);
  }

  /** Sets a bit for each trustee that stands for one of these subjects. */
  public void mark(IntList subjectsOfToken, long[] bits) {
    for (int i = 0; i < subjectsOfToken.size(); i++) {
      int subject = subjectsOfToken.get(i);
      for (int p = bySubject.start(subject); p < bySubject.end(subject); p++) {
        int trustee = bySubject.at(p);
        bits[trustee >> 6] |= 1L << trustee;
      }
    }
  }

  /** All subjects that count as a trustee. */
  public IntList subjects(int trustee) {
    return IntList.of(byTrustee.row(trustee));
  }

  /** The subjects that are named at all, ascending. */
  public IntList named() {
    IntList named = new IntList();
    for (int s = 0; s < bySubject.rows(); s++) {
      if (bySubject.size(s) > 0) {
        named.add(s);
      }
    }
    return named;
  }

  /** Collects trustees. Not thread-safe. */
  public static final class Builder {
    private final Facts facts;
    private final List<String> texts = new ArrayList<>();
    private final List<String> labels = new ArrayList<>();
    private final IntList subjects = new IntList();
    private final IntList pairTrustee = new IntList();
    private final IntList pairSubject = new IntList();
    private final BitSet known = new BitSet();
    private final BitSet open = new BitSet();
    private final BitSet earlier = new BitSet();
    private final Map<String, Integer> byText = new HashMap<>();

    /** Everybody is there from the beginning, as this implicit group. */
    public Builder(Facts facts, int everyone) {
      this.facts = facts;
      add("", facts.label(everyone), everyone);
    }

    /** The number of a trustee that was added, or -1. */
    public int find(String text) {
      return byText.getOrDefault(text, -1);
    }

    /** Adds a trustee. */
    public int add(String text, String label, int subject) {
      byText.put(text, texts.size());
      texts.add(text);
      labels.add(label);
      subjects.add(subject);
      if (subject >= 0) {
        also(texts.size() - 1, subject);
      }
      return texts.size() - 1;
    }

    /** Says that one more subject counts as a trustee. */
    public void also(int trustee, int subject) {
      pairTrustee.add(trustee);
      pairSubject.add(subject);
    }

    /** Says that a trustee is known, though it stands for nobody of a directory. */
    public void known(int trustee) {
      known.set(trustee);
    }

    /** Says that it is not known who counts as a trustee. */
    public void open(int trustee) {
      open.set(trustee);
    }

    /** Says that a trustee is written by an id kept from an earlier directory. */
    public void earlier(int trustee) {
      earlier.set(trustee);
    }

    /** The frozen trustees. */
    public Trustees build() {
      return new Trustees(this);
    }
  }
}
