package mandala.core.lifecycle;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.EnumSet;
import java.util.List;
import java.util.Objects;
import java.util.Set;
import mandala.core.RandomModels;
import mandala.core.change.Change;
import mandala.core.change.Draft;
import mandala.core.lifecycle.AccountTemplate.Made;
import mandala.core.lifecycle.AccountTemplate.Part;
import mandala.core.model.About;
import mandala.core.model.AccessModel;
import mandala.core.model.Account;
import mandala.core.model.Assignment;
import mandala.core.model.Catalogue;
import mandala.core.model.Group;
import mandala.core.model.Principal;
import mandala.core.model.Unit;
import mandala.core.model.check.ModelCheck;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.RoleKey;
import org.junit.jupiter.api.Test;

/** Accounts made like others, in random models. */
class AccountTemplateSpec {

  private static final RoleKey ADMINISTERS = new RoleKey("mandala.security-administrator");

  private static AccountTemplate like(Account old, Principal who, Set<Part> parts) {
    Account fresh =
        new Account(
            new AccountKey("fresh"), About.named("Fresh"), old.parent(), false, old.sealed());
    return new AccountTemplate(old.key(), fresh, parts, who.key(), ADMINISTERS);
  }

  @Test
  void nothingThatWasThereChangesAndTheNewAccountIsWhole() {
    int copied = 0;
    for (int seed = 0; seed < 150; seed++) {
      AccessModel model = RandomModels.model(seed);
      Catalogue in = new Catalogue(model);
      for (Account old : model.accounts()) {
        Principal who =
            model.principals().stream()
                .filter(it -> it.kind() == Principal.Kind.PERSON)
                .findFirst()
                .orElse(null);
        if (who == null || in.accounts().containsKey(new AccountKey("fresh"))) {
          continue;
        }
        Made made = like(old, who, EnumSet.allOf(Part.class)).made(in);
        assertThat(made.changes()).as("seed %d", seed).allMatch(it -> it instanceof Change.Added);
        Catalogue after = Draft.of(made.changes()).appliedUnchecked(in);
        assertThat(ModelCheck.faultsOf(after.model()))
            .as("seed %d, like %s", seed, old.key())
            .isEmpty();
        AccountKey fresh = new AccountKey("fresh");
        assertThat(names(units(after, fresh))).isEqualTo(names(units(in, old.key())));
        for (Group it : after.groups().values()) {
          if (it.account().equals(fresh)) {
            assertThat(it.owners()).containsExactly(who.key());
            assertThat(it.members()).allMatch(Group.Member.OfGroup.class::isInstance);
            copied++;
          }
        }
        assertNothingElseIsReached(after, in, old.key());
      }
    }
    assertThat(copied).isGreaterThan(50);
  }

  private static List<Unit> units(Catalogue in, AccountKey account) {
    return in.units().values().stream().filter(it -> it.account().equals(account)).toList();
  }

  private static List<String> names(List<Unit> units) {
    return units.stream().map(it -> String.valueOf(it.about().name())).sorted().toList();
  }

  /** What is new names the new account or what is relative to the person, never the old one. */
  private static void assertNothingElseIsReached(Catalogue after, Catalogue in, AccountKey old) {
    for (Assignment it : after.assignments().values()) {
      if (in.assignments().containsKey(it.key())) {
        continue;
      }
      assertThat(it.scope().toString()).doesNotContain("account:" + old + "]");
      assertThat(it.window().until()).isNull();
    }
  }

  @Test
  void onlyWhatIsChosenIsCopied() {
    for (int seed = 0; seed < 40; seed++) {
      AccessModel model = RandomModels.model(seed);
      Catalogue in = new Catalogue(model);
      Account old = model.accounts().getFirst();
      Principal who =
          model.principals().stream()
              .filter(it -> it.kind() == Principal.Kind.PERSON)
              .findFirst()
              .orElse(null);
      if (who == null) {
        continue;
      }
      Made made = like(old, who, Set.of()).made(in);
      assertThat(made.changes()).hasSize(2);
      assertThat(made.leftOut()).isZero();
      Catalogue after = Draft.of(made.changes()).appliedUnchecked(in);
      Assignment administers =
          after.assignments().values().stream()
              .filter(it -> !in.assignments().containsKey(it.key()))
              .findFirst()
              .orElseThrow();
      assertThat(administers.subject().toString()).contains(who.key().value());
      Principal is =
          Objects.requireNonNull(after.principals().get(new PrincipalKey(who.key().value())));
      assertThat(is).isEqualTo(who);
    }
  }
}
