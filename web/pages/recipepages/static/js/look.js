// A page with the second look and no other script.
import Alpine from '../vendor/alpine.js';
import './second.js';

Alpine.start();
