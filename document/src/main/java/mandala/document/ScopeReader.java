package mandala.document;

import java.util.ArrayList;
import java.util.List;
import mandala.core.model.Clause;
import mandala.core.model.Rule;
import mandala.core.model.Term;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.CollectionKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.model.key.TypeKey;
import mandala.core.model.key.UnitKey;
import tools.jackson.databind.JsonNode;

/** Reads clauses and rules. */
final class ScopeReader {

  private ScopeReader() {}

  static Clause clause(Node in) {
    List<Term> terms = new ArrayList<>();
    Boolean everything = in.optionalFlag("everything");
    if (everything != null && everything) {
      terms.add(new Term.Everything());
    } else if (everything != null) {
      in.report(
          in.path("everything"),
          "'everything' is false",
          "Leave the term out, or write true if you mean everything");
      terms.add(new Term.Everything());
    }
    String account = in.key("account", text -> text);
    if (account != null) {
      terms.add(
          account.equals("own")
              ? new Term.OwnAccount()
              : new Term.InAccount(new AccountKey(account)));
    }
    add(terms, in.key("tree", text -> new Term.Tree(new ResourceKey(text))));
    add(terms, in.key("only", text -> new Term.Only(new ResourceKey(text))));
    add(terms, in.key("collection", text -> new Term.InCollection(new CollectionKey(text))));
    add(terms, in.key("type", text -> new Term.OfType(new TypeKey(text))));
    String unit = in.key("unit", text -> text);
    if (unit != null) {
      terms.add(unit.equals("own") ? new Term.OwnUnit() : new Term.InUnit(new UnitKey(unit)));
    }
    Term.Owner owner = in.choice("owner", Term.Owner.class);
    if (owner != null) {
      terms.add(new Term.OwnedBy(owner));
    }
    if (in.has("labels")) {
      terms.add(new Term.Labelled(in.texts("labels")));
    }
    return new Clause(terms);
  }

  private static void add(List<Term> terms, @org.jspecify.annotations.Nullable Term term) {
    if (term != null) {
      terms.add(term);
    }
  }

  static Rule rule(Node in) {
    boolean all = in.has("all");
    boolean any = in.has("any");
    if (all == any) {
      in.report(
          in.path(all ? "any" : "all"),
          all ? "the rule has both 'all' and 'any'" : "the rule has neither 'all' nor 'any'",
          "Write one list of tests, under 'all' or under 'any'");
    }
    List<Rule.Test> tests = new ArrayList<>(in.objects("all", ScopeReader::test));
    tests.addAll(in.objects("any", ScopeReader::test));
    return new Rule(all ? Rule.Match.ALL : Rule.Match.ANY, tests);
  }

  private static Rule.Test test(Node in) {
    String attribute = in.requiredKey("attribute", text -> text);
    Rule.Op op = in.requiredChoice("op", Rule.Op.class);
    boolean takesNone = op == Rule.Op.PRESENT || op == Rule.Op.ABSENT;
    List<String> values = new ArrayList<>();
    if (takesNone && in.has("value")) {
      in.report(in.path("value"), "'" + Node.word(op) + "' takes no value", "Remove the value");
    } else if (op == Rule.Op.IN) {
      values.addAll(in.requiredList("value", ScopeReader::plain));
    } else if (!takesNone) {
      String value = in.text("value");
      if (value == null && !in.has("value")) {
        in.report(in.path("value"), "the field 'value' is missing", "Add it");
      }
      values.add(value == null ? "?" : value);
    }
    return new Rule.Test(attribute, op, values);
  }

  private static @org.jspecify.annotations.Nullable String plain(JsonNode value, String where) {
    return value.isString() ? value.stringValue() : null;
  }
}
