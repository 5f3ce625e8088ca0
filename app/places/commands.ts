/**
 * The commands of all places. They are known before a place is gone to, so that no key is given away that one of them
 * needs.
 */
import './bench/commands';
import './parts/commands';
import './record/commands';
import './takes/commands';
import './tempo/commands';
