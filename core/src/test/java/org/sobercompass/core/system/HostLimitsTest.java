package org.sobercompass.core.system;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.sobercompass.core.filter.Truth;

/** From which hosts an account may sign in. */
class HostLimitsTest {
  @ParameterizedTest
  @CsvSource({
    "desk-1, desk-1, true",
    "desk-1, DESK-1, true",
    "desk-1, desk-1.vault.example, true",
    "desk-1.vault.example, desk-1, true",
    "desk-1.vault.example, desk-1.glass.example, false",
    "desk-1, desk-11.vault.example, false",
    "desk-1, desk, false"
  })
  void aNameWithoutItsDomainIsTheSameHost(String a, String b, boolean same) {
    assertThat(HostLimits.same(a, b)).isEqualTo(same);
    assertThat(HostLimits.same(b, a)).isEqualTo(same);
  }

  @ParameterizedTest
  @CsvSource({
    "'', '', TRUE",
    "'', desk-1, TRUE",
    "'*', desk-1, TRUE",
    "desk-1, '', UNDEFINED",
    "desk-1, desk-1, TRUE",
    "desk-1, desk-2, FALSE",
    "'desk-1 desk-2', 'desk-3 desk-2', TRUE"
  })
  void oneOfTheHostsMustBeAmongThoseAllowed(String allowed, String hosts, Truth expected) {
    assertThat(HostLimits.allows(split(allowed), split(hosts))).isEqualTo(expected);
  }

  private static List<String> split(String words) {
    return words.isEmpty() ? List.of() : List.of(words.split(" "));
  }
}
