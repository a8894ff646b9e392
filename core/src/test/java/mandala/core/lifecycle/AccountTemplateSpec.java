package mandala.core.lifecycle;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.EnumSet;
import java.util.HashSet;
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
import mandala.core.model.Clause;
import mandala.core.model.Group;
import mandala.core.model.Principal;
import mandala.core.model.Subject;
import mandala.core.model.Supplied;
import mandala.core.model.Unit;
import mandala.core.model.Window;
import mandala.core.model.check.ModelCheck;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.Key;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import org.junit.jupiter.api.Test;

/** Accounts made like others, in random models. */
class AccountTemplateSpec {

  private static AccountTemplate like(Account old, Principal who, Set<Part> parts) {
    Account fresh =
        new Account(
            new AccountKey("fresh"), About.named("Fresh"), old.parent(), false, old.sealed());
    return new AccountTemplate(old.key(), fresh, parts, who.key(), Supplied.SECURITY_ADMINISTRATOR);
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
        Made made = like(old, who, EnumSet.allOf(Part.class)).made(in, _ -> true);
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

  /** What is new gives nothing in the old account: its scopes name neither it nor its units. */
  private static void assertNothingElseIsReached(Catalogue after, Catalogue in, AccountKey old) {
    Set<Key> theirs = new HashSet<>(List.of(old, ResourceKey.of(old)));
    units(in, old).forEach(it -> theirs.addAll(List.of(it.key(), ResourceKey.of(it.key()))));
    for (Assignment it : after.assignments().values()) {
      if (in.assignments().containsKey(it.key())) {
        continue;
      }
      assertThat(it.window()).isEqualTo(Window.ALWAYS);
      for (Clause clause : it.scope()) {
        assertThat(clause.terms()).noneMatch(term -> theirs.contains(term.named()));
        assertThat(clause.terms())
            .as("held to the new account, or to whoever has it")
            .anyMatch(term -> term.relative() || term.named() != null);
      }
    }
  }

  @Test
  void whatItsMakerMayNotReadIsLeftOut() {
    int hidden = 0;
    for (int seed = 0; seed < 60; seed++) {
      AccessModel model = RandomModels.model(seed);
      Catalogue in = new Catalogue(model);
      Account old = model.accounts().getFirst();
      Principal who = model.principals().getFirst();
      List<Group> groups =
          model.groups().stream()
              .filter(it -> it.account().equals(old.key()) && !it.retired())
              .toList();
      if (groups.isEmpty()) {
        continue;
      }
      Group secret = groups.getFirst();
      Subject itself = new Subject.OfGroup(secret.key());
      AccountTemplate all = like(old, who, EnumSet.allOf(Part.class));
      Made whole = all.made(in, _ -> true);
      Made told =
          all.made(
              in,
              it ->
                  !secret.key().equals(it.key())
                      && !(it instanceof Assignment one && one.subject().equals(itself)));
      long gone = count(whole, Group.class) - count(told, Group.class);
      assertThat(gone).as("seed %d", seed).isEqualTo(1);
      assertThat(told.leftOut()).as("nor is it counted").isLessThanOrEqualTo(whole.leftOut());
      hidden += (int) (count(whole, Assignment.class) - count(told, Assignment.class));
    }
    assertThat(hidden).isPositive();
  }

  private static long count(Made made, Class<?> kind) {
    return made.changes().stream().filter(it -> kind.isInstance(it.things().getLast())).count();
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
      Made made = like(old, who, Set.of()).made(in, _ -> true);
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
