package mandala.server.audit;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.time.Instant;
import mandala.server.platform.Secrets;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Heads that are signed and kept outside of the database. */
class SignedHeadsTest {

  private static final Instant NOW = Instant.parse("2026-11-28T07:00:00Z");

  private static SignedHeads heads(Path folder) {
    return new SignedHeads(new Secrets(folder), "jdbc:postgresql://127.0.0.1:5432/somewhere");
  }

  @Test
  void areReadAgainByTheNextStartAndItsKeyIsTheSame(@TempDir Path folder) {
    SignedHeads first = heads(folder);
    first.sign(7, "aa", NOW);
    first.sign(7, "aa", NOW.plusSeconds(60));
    SignedHeads second = heads(folder);
    assertThat(second.publicKey()).isEqualTo(first.publicKey());
    assertThat(second.kept()).as("one head is signed once").hasSize(1);
    assertThat(second.kept()).allMatch(second::isGenuine);
  }

  @Test
  void ofAnotherKeyOrWithOtherContentAreNotGenuine(@TempDir Path folder, @TempDir Path other) {
    SignedHeads heads = heads(folder);
    heads.sign(7, "aa", NOW);
    SignedHeads.Signed it = heads.kept().getFirst();
    assertThat(heads(other).isGenuine(it)).isFalse();
    assertThat(heads.isGenuine(new SignedHeads.Signed(8, it.hash(), it.at(), it.signature())))
        .isFalse();
    assertThat(heads.isGenuine(new SignedHeads.Signed(7, "ab", it.at(), it.signature()))).isFalse();
    assertThat(heads.isGenuine(new SignedHeads.Signed(7, "aa", NOW.plusSeconds(1), it.signature())))
        .isFalse();
    assertThat(heads.isGenuine(new SignedHeads.Signed(7, "aa", NOW, "not base64!"))).isFalse();
  }

  @Test
  void areKeptInBoundedNumberTheNewestFirstOfAll(@TempDir Path folder) {
    SignedHeads heads = heads(folder);
    for (int seq = 1; seq <= 2 * SignedHeads.KEPT + 5; seq++) {
      heads.sign(seq, "h" + seq, NOW);
    }
    assertThat(heads.kept()).hasSizeBetween(SignedHeads.KEPT, SignedHeads.KEPT + 10);
    assertThat(heads.kept().getLast().seq()).isEqualTo(2 * SignedHeads.KEPT + 5);
    assertThat(heads.kept()).allMatch(heads::isGenuine);
  }

  @Test
  void noTwoSequencesOfFieldsReadTheSame() {
    assertThat(new Canonical().add("a b").hex())
        .isNotEqualTo(new Canonical().add("a").add("b").hex());
    assertThat(new Canonical().add((String) null).hex())
        .isNotEqualTo(new Canonical().add("").hex());
    assertThat(new Canonical().add(0L).hex()).isNotEqualTo(new Canonical().add((Long) null).hex());
    assertThat(new Canonical().add(java.util.List.of()).hex())
        .isNotEqualTo(new Canonical().add(java.util.List.of("")).hex());
    assertThat(new Canonical().add(java.util.List.of("a", "b")).hex())
        .isNotEqualTo(new Canonical().add(java.util.List.of("a")).add("b").hex());
  }
}
