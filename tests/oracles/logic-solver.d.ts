declare module 'logic-solver' {
  namespace Logic {
    /** The name of a variable, or what the functions below give. */
    type Formula = string | { readonly type?: string };
    const TRUE: Formula;
    const FALSE: Formula;
    interface Solution {
      evaluate(formula: Formula): boolean;
    }
    class Solver {
      require(...formulas: Formula[]): void;
      solve(): Solution | null;
      solveAssuming(formula: Formula): Solution | null;
    }
    function or(...of: Formula[]): Formula;
    function and(...of: Formula[]): Formula;
    function not(of: Formula): Formula;
    function equiv(a: Formula, b: Formula): Formula;
  }
  export default Logic;
}
