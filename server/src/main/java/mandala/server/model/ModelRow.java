package mandala.server.model;

import mandala.core.model.Thing;

/** A thing of the model as a row of its table. */
interface ModelRow {

  /** {@return the thing that the row holds} */
  Thing thing();
}
