package mandala.core.table;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** What shares its memory with what it came of says the same as a map that was copied. */
class TablesTest {

  @ParameterizedTest(name = "seed {0}")
  @ValueSource(longs = {1, 2, 3, 4})
  void tablesAndNumbersKeepEveryVersion(long seed) {
    Random random = new Random(seed);
    Table<String> table = Table.empty();
    Numbers numbers = Numbers.of(new int[0]);
    Map<Integer, Integer> now = new HashMap<>();
    List<Table<String>> tables = new ArrayList<>();
    List<Numbers> allNumbers = new ArrayList<>();
    List<Map<Integer, Integer>> maps = new ArrayList<>();
    for (int step = 0; step < 400; step++) {
      int at = random.nextInt(step < 200 ? 300 : 5_000);
      boolean goes = random.nextInt(4) == 0;
      table = table.with(at, goes ? null : "v" + step);
      numbers = numbers.with(at, goes ? Numbers.NONE : step);
      if (goes) {
        now.remove(at);
      } else {
        now.put(at, step);
      }
      tables.add(table);
      allNumbers.add(numbers);
      maps.add(Map.copyOf(now));
    }
    for (int version = 0; version < maps.size(); version += 37) {
      Map<Integer, Integer> expected = maps.get(version);
      List<String> named = new ArrayList<>();
      tables.get(version).forEach(named::add);
      assertThat(named).hasSize(expected.size());
      for (int at = 0; at < 5_200; at++) {
        Integer value = expected.get(at);
        assertThat(tables.get(version).get(at)).isEqualTo(value == null ? null : "v" + value);
        assertThat(allNumbers.get(version).get(at)).isEqualTo(value == null ? -1 : value);
        assertThat(tables.get(version).getOr(at, "none"))
            .isEqualTo(value == null ? "none" : "v" + value);
      }
    }
    assertThat(tables.getFirst().size()).isLessThan(tables.getLast().size());
  }

  @ParameterizedTest(name = "{0} values")
  @ValueSource(ints = {0, 1, 255, 256, 257, 511, 512, 513, 1_025})
  void whatIsMadeOfAnArrayHoldsIt(int size) {
    String[] words = new String[size];
    int[] values = new int[size];
    for (int i = 0; i < size; i++) {
      words[i] = i % 7 == 3 ? null : "w" + i;
      values[i] = i % 7 == 3 ? Numbers.NONE : i * 3;
    }
    Table<String> table = Table.of(words);
    Numbers numbers = Numbers.of(values);
    assertThat(table.size()).isEqualTo(size);
    for (int i = 0; i < size; i++) {
      assertThat(table.get(i)).isEqualTo(words[i]);
      assertThat(numbers.get(i)).isEqualTo(values[i]);
    }
    assertThat(table.get(size + 600)).isNull();
    assertThat(numbers.get(size + 600)).isEqualTo(Numbers.NONE);
    assertThatThrownBy(() -> table.require(size + 600)).isInstanceOf(IllegalStateException.class);
  }

  private record Thing(String key, int value) {}

  @ParameterizedTest(name = "seed {0}")
  @ValueSource(longs = {1, 2, 3, 4, 5, 6})
  void registersKeepNumbersAndEveryVersion(long seed) {
    Random random = new Random(seed);
    List<Thing> start = new ArrayList<>();
    for (int i = 0; i < random.nextInt(700); i++) {
      start.add(new Thing("k" + i, i));
    }
    Register<String, Thing> register = Register.of(start, Thing::key);
    Map<String, Thing> now = new LinkedHashMap<>();
    start.forEach(it -> now.put(it.key(), it));
    Map<String, Integer> numbers = new HashMap<>();
    start.forEach(it -> numbers.put(it.key(), numbers.size()));
    List<Register<String, Thing>> versions = new ArrayList<>();
    List<Map<String, Thing>> expected = new ArrayList<>();
    for (int step = 0; step < 1_500; step++) {
      String key = "k" + random.nextInt(1_200);
      if (random.nextInt(3) == 0) {
        register = register.without(key);
        now.remove(key);
        numbers.remove(key);
      } else {
        register = register.with(new Thing(key, step));
        now.put(key, new Thing(key, step));
        numbers.putIfAbsent(key, register.number(key));
      }
      assertThat(register.number(key)).isEqualTo(numbers.getOrDefault(key, -1));
      if (step % 250 == 0) {
        versions.add(register);
        expected.add(Map.copyOf(now));
      }
    }
    for (int i = 0; i < versions.size(); i++) {
      Register<String, Thing> version = versions.get(i);
      assertThat(version)
          .containsExactlyInAnyOrderEntriesOf(expected.get(i))
          .hasSameSizeAs(expected.get(i));
      assertThat(version.keySet()).allMatch(version::containsKey);
      for (Thing it : expected.get(i).values()) {
        assertThat(version.the(version.require(it.key()))).isEqualTo(it);
      }
      assertThat(version.number("not there")).isEqualTo(-1);
      assertThatThrownBy(() -> version.require("not there"))
          .isInstanceOf(IllegalStateException.class)
          .hasMessageContaining("not there");
    }
  }

  @ParameterizedTest(name = "the first of {0}")
  @ValueSource(ints = {2, 3})
  void ofEqualKeysTheFirstCounts(int many) {
    List<Thing> same = new ArrayList<>();
    for (int i = 0; i < many; i++) {
      same.add(new Thing("k", i));
    }
    Register<String, Thing> register = Register.of(same, Thing::key);
    assertThat(register).hasSize(1);
    assertThat(register.get("k")).isEqualTo(new Thing("k", 0));
  }
}
