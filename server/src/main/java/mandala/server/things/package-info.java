/** The things of the model as screens read them, with a draft laid over. */
@NullMarked
package mandala.server.things;

import org.jspecify.annotations.NullMarked;
