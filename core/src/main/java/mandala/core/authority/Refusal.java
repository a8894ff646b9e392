package mandala.core.authority;

import mandala.core.change.Change;
import mandala.core.model.key.AccountKey;

/** Why a change may not be made by its author (section 11). */
public sealed interface Refusal {

  /** The author lacks a permission on what the change names. */
  record Lacking(Change change, RequiredRight demand) implements Refusal {}

  /** A new root account is made on the command line only. */
  record NewRoot(Change change) implements Refusal {}

  /** What a bridge gives, its scope and its group change only while it is offered. */
  record NotOffered(Change change) implements Refusal {}

  /** An activation is made by its principal, of an assignment of which it has the subject. */
  record NotOneself(Change change) implements Refusal {}

  /** After it a root account would have no owner left. */
  record LastOwner(AccountKey account) implements Refusal {}
}
