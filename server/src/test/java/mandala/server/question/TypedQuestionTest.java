package mandala.server.question;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.stream.Stream;
import mandala.server.question.TypedQuestion.Form;
import mandala.server.question.TypedQuestion.Named;
import mandala.server.question.TypedQuestion.Understood;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Questions in many wordings, read with the names of a small museum. */
class TypedQuestionTest {

  private static final TypedQuestion.Names NAMES =
      new TypedQuestion.Names() {
        @Override
        public Named self() {
          return new Named("ada", "Ada Finch", "you");
        }

        @Override
        public Stream<Named> people(TypedQuestion.Fits fits) {
          return named(
              fits,
              "noor.haddad/Noor Haddad",
              "noor.aziz/Noor Aziz",
              "omar/Omar Chidi",
              "ada/Ada Finch");
        }

        @Override
        public Stream<Named> permissions(TypedQuestion.Fits fits) {
          return named(
              fits,
              "object.edit/Edit objects",
              "object.view/View objects",
              "loan.approve/Approve loans",
              "loan.approve.high/Approve high loans");
        }

        @Override
        public Stream<Named> places(TypedQuestion.Fits fits) {
          return named(
              fits,
              "account:quillhaven/Quillhaven Sea Museum",
              "object:anne/Figurehead of the Anne",
              "object:figurehead/Figurehead",
              "loan:114/Loan 114",
              "hall/St. Brendan's Hall");
        }

        private Stream<Named> named(TypedQuestion.Fits fits, String... things) {
          return Stream.of(things)
              .map(it -> it.split("/"))
              .filter(it -> fits.test(it[0], it[1]))
              .map(it -> new Named(it[0], it[1], ""));
        }
      };

  private static String key(@org.jspecify.annotations.Nullable Named it) {
    return it == null ? "" : it.key();
  }

  @ParameterizedTest(name = "{0}")
  @CsvSource(
      delimiter = '|',
      textBlock =
          """
          What can Noor Haddad do?                          | ACCESS       | noor.haddad |            |              |
          Noor Haddad: what access in Quillhaven Sea Museum | ACCESS       | noor.haddad |            |              | account:quillhaven
          rights of omar                                    | ACCESS       | omar        |            |              |
          what am I allowed to do                           | ACCESS       | ada         |            |              |
          Who can approve loans on Loan 114?                | WHO          |             |            | loan.approve | loan:114
          on loan 114, who may approve                      | WHO          |             |            | loan.approve | loan:114
          loan.approve holders                              | WHO          |             |            | loan.approve |
          who approves high loans                           | WHO          |             |            | loan.approve.high |
          Why can’t Noor Haddad edit objects on Figurehead? | WHY          | noor.haddad |            | object.edit  | object:figurehead
          can omar be editing the object Figurehead of the Anne | WHY      | omar        |            | object.edit  | object:anne
          Figurehead: why does Omar Chidi edit objects      | WHY          | omar        |            | object.edit  | object:figurehead
          How could Omar come to approve loans on loan 114  | ESCALATION   | omar        |            | loan.approve | loan:114
          how might omar chidi get object.edit              | ESCALATION   | omar        |            | object.edit  |
          difference between Omar Chidi and Noor Aziz       | DIFFERENCE   | omar        | noor.aziz  |              |
          compare omar with noor                            | DIFFERENCE   | omar        | noor.haddad |              |
          Noor Haddad and Omar Chidi side by side           | SIDE_BY_SIDE | noor.haddad | omar       |              |
          who can view objects in St. Brendan's Hall        | WHO          |             |            | object.view  | hall
          """)
  void isUnderstoodInManyWordings(
      String text, Form form, String person, String other, String permission, String place) {
    Understood it = TypedQuestion.of(text, NAMES);
    assertThat(it).isNotNull();
    assertThat(it.form()).isEqualTo(form);
    assertThat(it.asked()).isTrue();
    assertThat(List.of(key(it.person()), key(it.permission()), key(it.place())))
        .isEqualTo(List.of(or(person), or(permission), or(place)));
    assertThat(key(it.other())).isEqualTo(or(other));
    assertThat(it.unknown()).isEmpty();
  }

  private static String or(@org.jspecify.annotations.Nullable String text) {
    return text == null ? "" : text;
  }

  @ParameterizedTest(name = "{0}")
  @CsvSource(
      delimiter = '|',
      textBlock =
          """
          noor haddad                        | ACCESS
          omar chidi approve loans loan 114  | WHY
          approve loans                      | WHO
          omar chidi noor aziz               | DIFFERENCE
          """)
  void isProposedWhereOnlyNamesAreTyped(String text, Form form) {
    Understood it = TypedQuestion.of(text, NAMES);
    assertThat(it).isNotNull();
    assertThat(it.form()).isEqualTo(form);
    assertThat(it.asked()).isFalse();
  }

  @Test
  void saysWhichWordsItDoesNotKnow() {
    Understood it = TypedQuestion.of("Why can Omar Chidi juggle on Loan 114", NAMES);
    assertThat(it).isNotNull();
    assertThat(it.permission()).isNull();
    assertThat(it.unknown()).containsExactly("juggle");
  }

  @ParameterizedTest
  @CsvSource({"''", "'who'", "'what can zzyx do'", "'figurehead'", "'?'"})
  void nothingIsUnderstoodWhereNothingIsNamed(String text) {
    assertThat(TypedQuestion.of(text, NAMES)).isNull();
  }
}
