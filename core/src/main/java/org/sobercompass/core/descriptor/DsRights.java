package org.sobercompass.core.descriptor;

import java.util.ArrayList;
import java.util.List;

/** The access rights of directory objects ([MS-ADTS] 5.1.3.2). */
public final class DsRights {
  public static final int CREATE_CHILD = 0x01;
  public static final int DELETE_CHILD = 0x02;
  public static final int LIST = 0x04;

  /** Writing that the server checks: a validated write. */
  public static final int SELF = 0x08;

  public static final int READ_PROPERTY = 0x10;
  public static final int WRITE_PROPERTY = 0x20;
  public static final int DELETE_TREE = 0x40;
  public static final int LIST_OBJECT = 0x80;

  /** An extended right. */
  public static final int CONTROL_ACCESS = 0x100;

  public static final int DELETE = 0x1_0000;
  public static final int READ_CONTROL = 0x2_0000;
  public static final int WRITE_DAC = 0x4_0000;
  public static final int WRITE_OWNER = 0x8_0000;
  public static final int GENERIC_ALL = 0x1000_0000;
  public static final int GENERIC_EXECUTE = 0x2000_0000;
  public static final int GENERIC_WRITE = 0x4000_0000;
  public static final int GENERIC_READ = 0x8000_0000;

  /** Everything there is. */
  public static final int ALL = 0xf_01ff;

  private static final int READ = READ_CONTROL | LIST | READ_PROPERTY | LIST_OBJECT;
  private static final int WRITE = READ_CONTROL | SELF | WRITE_PROPERTY;
  private static final int EXECUTE = READ_CONTROL | LIST;

  private static final List<Word> WORDS =
      List.of(
          new Word(CREATE_CHILD, "create below", "create objects of any class"),
          new Word(DELETE_CHILD, "delete below", "delete objects of any class in it"),
          new Word(LIST, "list"),
          new Word(SELF, "validated write", "all validated writes"),
          new Word(READ_PROPERTY, "read", "read all attributes"),
          new Word(WRITE_PROPERTY, "write", "write all attributes"),
          new Word(DELETE_TREE, "delete with all below"),
          new Word(LIST_OBJECT, "list one by one"),
          new Word(CONTROL_ACCESS, "extended right", "all extended rights"),
          new Word(DELETE, "delete"),
          new Word(READ_CONTROL, "read permissions"),
          new Word(WRITE_DAC, "change permissions"),
          new Word(WRITE_OWNER, "take ownership"));

  /** A right in words: about a part, and about the object as a whole. */
  private record Word(int bit, String words, String whole) {
    Word(int bit, String words) {
      this(bit, words, words);
    }
  }

  private DsRights() {}

  /** Generic rights replaced by what they stand for in a directory ([MS-ADTS] 5.1.3.2). */
  public static int mapped(int mask) {
    int out = mask & 0x0fff_ffff;
    out |= (mask & GENERIC_ALL) != 0 ? ALL : 0;
    out |= (mask & GENERIC_EXECUTE) != 0 ? EXECUTE : 0;
    out |= (mask & GENERIC_WRITE) != 0 ? WRITE : 0;
    out |= (mask & GENERIC_READ) != 0 ? READ : 0;
    return out & ~GENERIC_ALL;
  }

  /**
   * The rights in words, in the order of their bits; {@code full control} for all.
   *
   * @param ofPart whether they are about a part that is named after them: an attribute, a class
   */
  public static List<String> words(int mask, boolean ofPart) {
    int mapped = mapped(mask);
    if ((mapped & ALL) == ALL) {
      return List.of("full control");
    }
    List<String> words = new ArrayList<>();
    for (Word word : WORDS) {
      if ((mapped & word.bit) != 0) {
        words.add(ofPart ? word.words : word.whole);
      }
    }
    int rest = mapped & ~ALL;
    if (rest != 0) {
      words.add("0x" + Integer.toHexString(rest));
    }
    return words;
  }
}
