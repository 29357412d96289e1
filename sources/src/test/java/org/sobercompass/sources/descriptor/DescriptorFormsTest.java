package org.sobercompass.sources.descriptor;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.catchThrowable;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.HexFormat;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import java.util.UUID;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import org.sobercompass.core.descriptor.Ace;
import org.sobercompass.core.descriptor.AceType;
import org.sobercompass.core.descriptor.Descriptor;
import org.sobercompass.core.descriptor.MalformedException;
import org.sobercompass.core.descriptor.Sddl;

/** Both forms of descriptors, there and back; what is damaged is refused with its place. */
class DescriptorFormsTest {
  private static final Optional<String> DOMAIN = Optional.of("S-1-5-21-1-2-3");

  /** Random descriptors of all types of entries. */
  private static Descriptor random(Random random) {
    List<Ace> entries = new ArrayList<>();
    AceType[] types = AceType.values();
    for (int i = 0; i < random.nextInt(12); i++) {
      AceType type = types[random.nextInt(types.length - 1)];
      Ace ace =
          new Ace(
              type,
              type.code(),
              random.nextInt(32),
              random.nextInt(),
              type.isObject() && random.nextBoolean()
                  ? Optional.of(new UUID(random.nextLong(), random.nextLong()))
                  : Optional.empty(),
              type.isObject() && random.nextBoolean()
                  ? Optional.of(new UUID(random.nextLong(), random.nextLong()))
                  : Optional.empty(),
              "S-1-5-21-" + random.nextInt(1000) + "-" + random.nextInt(1000),
              type.hasData() ? "0a0b0c0d".repeat(random.nextInt(3)) : "");
      entries.add(ace);
    }
    if (random.nextInt(4) == 0) {
      entries.add(
          new Ace(
              AceType.UNKNOWN,
              0x40 + random.nextInt(9),
              0,
              0,
              Optional.empty(),
              Optional.empty(),
              "",
              "01020304"));
    }
    boolean none = random.nextInt(10) == 0;
    return new Descriptor(
        Descriptor.SELF_RELATIVE
            | Descriptor.DACL_PRESENT
            | (random.nextBoolean() ? Descriptor.DACL_PROTECTED : 0),
        random.nextBoolean() ? Optional.of("S-1-5-32-544") : Optional.empty(),
        random.nextBoolean() ? Optional.of("S-1-5-18") : Optional.empty(),
        none ? Optional.empty() : Optional.of(entries),
        Optional.empty());
  }

  @ParameterizedTest
  @ValueSource(longs = {1, 2, 3, 4})
  void whatIsWrittenComesBack(long seed) throws MalformedException {
    Random random = new Random(seed);
    for (int n = 0; n < 500; n++) {
      Descriptor descriptor = random(random);
      assertThat(DescriptorCodec.read(DescriptorCodec.write(descriptor))).isEqualTo(descriptor);
    }
  }

  @ParameterizedTest
  @ValueSource(longs = {11, 12, 13, 14})
  void damagedBytesAreRefusedAndNeverCrash(long seed) {
    Random random = new Random(seed);
    int refused = 0;
    for (int n = 0; n < 3000; n++) {
      byte[] bytes = DescriptorCodec.write(random(random));
      if (random.nextBoolean()) {
        bytes = Arrays.copyOf(bytes, random.nextInt(bytes.length + 1));
      }
      for (int i = 0; i < random.nextInt(6) && bytes.length > 0; i++) {
        bytes[random.nextInt(bytes.length)] = (byte) random.nextInt();
      }
      byte[] damaged = bytes;
      Throwable thrown = catchThrowable(() -> DescriptorCodec.read(damaged));
      if (thrown != null) {
        assertThat(thrown)
            .as(HexFormat.of().formatHex(damaged))
            .isInstanceOf(MalformedException.class);
        assertThat(((MalformedException) thrown).expected()).isNotEmpty();
        refused++;
      }
    }
    assertThat(refused).isGreaterThan(500);
  }

  @Test
  void everyBeginningOfADescriptorIsRefused() {
    byte[] whole =
        DescriptorCodec.write(
            new Descriptor(
                Descriptor.DACL_PRESENT,
                Optional.of("S-1-5-32-544"),
                Optional.of("S-1-5-18"),
                Optional.of(List.of(Ace.of(AceType.ALLOW, 0, 0x20, "S-1-5-11"))),
                Optional.empty()));
    for (int length = 0; length < whole.length; length++) {
      byte[] part = Arrays.copyOf(whole, length);
      assertThatThrownBy(() -> DescriptorCodec.read(part)).isInstanceOf(MalformedException.class);
    }
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "O:BAG:SYD:PAI(A;CI;RPWP;;;AU)(D;;WD;;;S-1-5-21-1-2-3-1105)",
        "D:(OA;CIIO;WP;bf9679c0-0de6-11d0-a285-00aa003049e2;bf967a9c-0de6-11d0-a285-00aa003049e2;S-1-5-21-1-2-3-512)",
        "D:NO_ACCESS_CONTROL",
        "D:",
        "O:S-1-5-21-1-2-3-500D:(A;;GA;;;SY)S:(AU;SA;WD;;;WD)",
        "D:(XA;;RP;;;AU;(@User.Site == \"Vault (north)\"))"
      })
  void sddlComesBackAsItWas(String text) throws MalformedException {
    assertThat(Sddl.text(Sddl.read(text, DOMAIN))).isEqualTo(text);
  }

  @Test
  void lettersOfTheDomainNeedTheDomain() throws MalformedException {
    assertThat(Sddl.read("O:DAD:(A;;0x20;;;DU)", DOMAIN).owner()).contains("S-1-5-21-1-2-3-512");
    assertThat(Sddl.read("O:DA", DOMAIN).dacl()).isEmpty();
    assertThatThrownBy(() -> Sddl.read("O:DA", Optional.empty()))
        .isInstanceOfSatisfying(
            MalformedException.class,
            e -> assertThat(e.expected()).contains("whose domain is meant is not known"));
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "X:BA                          | 1  | found \"X\"",
        "O:BAO:BA                      | 5  | O: stands twice",
        "O:QQ                          | 3  | there is no trustee \"QQ\"",
        "D:(B;;RP;;;AU)                | 4  | there is no type of entry \"B\"",
        "D:(A;XX;RP;;;AU)              | 6  | there is no flag \"XX\"",
        "D:(A;;RPQQ;;;AU)              | 9  | there is no right \"QQ\"",
        "D:(A;;RP;nothing;;AU)         | 10 | \"nothing\" is no GUID",
        "D:(A;;RP;;AU)                 | 11 | the entry has too few parts",
        "D:(A;;RP;;;AU                 | 14 | the entry does not end",
        "D:(A;;RP;;;S-1-x)             | 12 | \"S-1-x\" is no SID",
        "D:(A;;0xfffffffff;;;AU)       | 7  | \"0xfffffffff\" is no number of rights",
        "D:(XA;;RP;;;AU;(a == (b))     | 16 | the condition does not end"
      })
  void wrongSddlIsToldWithItsColumn(String text, int column, String what) {
    assertThatThrownBy(() -> Sddl.read(text, DOMAIN))
        .isInstanceOfSatisfying(
            MalformedException.class,
            e -> {
              assertThat(e.getMessage()).startsWith(what);
              assertThat(e.at()).as(e.getMessage()).isEqualTo(column);
            });
  }

  @Test
  void randomTextNeverCrashes() {
    Random random = new Random(3);
    String letters = "OGDS:();ACIRPWDBUX0x1-5\"";
    for (int n = 0; n < 20_000; n++) {
      StringBuilder text = new StringBuilder("D:(A;");
      for (int i = 0; i < random.nextInt(20); i++) {
        text.append(letters.charAt(random.nextInt(letters.length())));
      }
      Throwable thrown = catchThrowable(() -> Sddl.read(text.toString(), DOMAIN));
      if (thrown != null) {
        assertThat(thrown).as(text.toString()).isInstanceOf(MalformedException.class);
      }
    }
  }
}
