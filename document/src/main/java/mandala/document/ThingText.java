package mandala.document;

import java.util.ArrayList;
import java.util.List;
import java.util.stream.Collectors;
import mandala.core.model.Activation;
import mandala.core.model.Assignment;
import mandala.core.model.Bridge;
import mandala.core.model.Catalogue;
import mandala.core.model.Delegation;
import mandala.core.model.Exclusion;
import mandala.core.model.Expectation;
import mandala.core.model.Guest;
import mandala.core.model.Kind;
import mandala.core.model.Subject;
import mandala.core.model.Thing;
import mandala.core.model.Window;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PrincipalKey;

/**
 * Things that say something, as the sentence that they say, without a stop: who is a guest where,
 * which door is open to whom, what must stay true. The field {@code said} of lists.
 */
public final class ThingText {

  private final ChangeText text;

  /** Speaks with the names of a catalogue; it may be faulty. */
  public ThingText(Catalogue in) {
    this(in, Naming.ALL);
  }

  /** Speaks with the names of a catalogue, as far as they may be told. */
  public ThingText(Catalogue in, Naming naming) {
    this.text = new ChangeText(in, in, naming);
  }

  /** {@return what a thing says}, its name where it says nothing */
  public String of(Thing thing) {
    return switch (thing) {
      case Guest it ->
          principal(it.principal())
              + " is a guest of "
              + account(it.account())
              + (it.withSubaccounts() ? " and all below it" : "")
              + window(it.window());
      case Activation it ->
          principal(it.principal())
              + " has activated "
              + text.assignmentNamed(it.assignment())
              + window(it.window());
      case Delegation it -> delegation(it);
      case Bridge it ->
          text.gives(it.gives())
              + " in "
              + account(it.account())
              + switch (it.status()) {
                case OFFERED -> " is offered to ";
                case ACCEPTED -> " is given to ";
                case ENDED -> " was given to ";
              }
              + text.name(Kind.GROUPS, it.group().value())
              + ": "
              + text.scope(it.scope())
              + window(it.window());
      case Assignment it -> text.sentence(it);
      case Exclusion it -> exclusion(it);
      case Expectation it -> capital(expectation(it));
      default -> text.name(thing);
    };
  }

  private static String capital(String said) {
    return Character.toUpperCase(said.charAt(0)) + said.substring(1);
  }

  private String principal(PrincipalKey key) {
    return text.name(Kind.PRINCIPALS, key.value());
  }

  private String account(AccountKey key) {
    return text.name(Kind.ACCOUNTS, key.value());
  }

  private static String window(Window window) {
    return ChangeText.window(window);
  }

  private String delegation(Delegation it) {
    String what =
        switch (it.limit()) {
          case Delegation.Limit.All _ -> "";
          case Delegation.Limit.Listed(var gives) ->
              " in what "
                  + gives.stream().map(text::gives).collect(Collectors.joining(", "))
                  + (gives.size() == 1 ? " allows" : " allow");
        };
    return principal(it.delegate())
        + " may act for "
        + principal(it.principal())
        + what
        + ": "
        + text.scope(it.scope())
        + window(it.window());
  }

  private String permissions(List<PermissionKey> keys, String and) {
    List<String> names =
        keys.stream().map(key -> "“" + text.name(Kind.PERMISSIONS, key.value()) + "”").toList();
    return joined(names, and);
  }

  private static String joined(List<String> words, String and) {
    if (words.size() < 2) {
      return words.isEmpty() ? "nothing" : words.getFirst();
    }
    return String.join(", ", words.subList(0, words.size() - 1)) + and + words.getLast();
  }

  private String exclusion(Exclusion it) {
    List<String> sides = new ArrayList<>();
    it.sides().forEach(side -> sides.add(permissions(side, " or ")));
    String where =
        switch (it.where()) {
          case RESOURCE -> " on the same resource";
          case ACCOUNT -> " in the same account";
          case ANYWHERE -> ", wherever it is";
        };
    String exempt =
        it.exempt().isEmpty()
            ? ""
            : ", but "
                + joined(
                    it.exempt().stream().map(each -> principal(each.principal())).toList(),
                    " and ");
    boolean two = it.sides().size() == 2 && it.atMost() == 1;
    return (two
            ? "No one may both " + sides.getFirst() + " and " + sides.getLast()
            : "No one may hold more than " + it.atMost() + " of these: " + String.join("; ", sides))
        + where
        + exempt;
  }

  private String expectation(Expectation it) {
    String who = joined(it.subjects().stream().map(this::subject).toList(), " and ");
    String what =
        permissions(it.permissions(), it.form() == Expectation.Form.CAN ? " and " : " or ");
    String where = " in " + text.scope(it.scope());
    return switch (it.form()) {
      case CAN -> who + " can " + what + where;
      case CANNOT -> who + " cannot " + what + where;
      case ONLY -> "Only " + who + " can " + what + where;
      case COUNT -> limits(it) + " can " + what + " on each of " + text.scope(it.scope());
    };
  }

  private String subject(Subject subject) {
    return text.subject(subject);
  }

  private static String limits(Expectation it) {
    Integer min = it.min();
    Integer max = it.max();
    if (min != null && max != null) {
      return min.equals(max) ? "Exactly " + people(min) : "From " + min + " to " + people(max);
    }
    return min != null
        ? "At least " + people(min)
        : max != null ? "At most " + people(max) : "Any number of people";
  }

  private static String people(int many) {
    return many == 1 ? "one person" : many + " people";
  }
}
