//! Systems whose size is known when the program is built.

/// The unknowns of a system of linear equations by elimination with row pivoting (Golub & Van Loan, Matrix Computations, section 3.4); `None` where
/// the equations contradict each other or leave an unknown open.
pub fn solve<const N: usize>(mut equations: [[f64; N]; N], mut to: [f64; N]) -> Option<[f64; N]> {
    for column in 0..N {
        let largest = (column..N).max_by(|a, b| equations[*a][column].abs().total_cmp(&equations[*b][column].abs()))?;
        equations.swap(column, largest);
        to.swap(column, largest);
        let pivot = equations[column][column];
        if pivot == 0.0 || !pivot.is_finite() {
            return None;
        }
        let above = equations[column];
        for row in column + 1..N {
            let share = equations[row][column] / pivot;
            if share != 0.0 {
                (column..N).for_each(|k| equations[row][k] -= share * above[k]);
                to[row] -= share * to[column];
            }
        }
    }
    for row in (0..N).rev() {
        let known: f64 = (row + 1..N).map(|k| equations[row][k] * to[k]).sum();
        to[row] = (to[row] - known) / equations[row][row];
    }
    to.iter().all(|x| x.is_finite()).then_some(to)
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    proptest! {
        #[test]
        fn the_unknowns_fulfil_their_equations(entries in prop::array::uniform32(-5.0f64..5.0), to in prop::array::uniform5(-9.0f64..9.0)) {
            let mut equations: [[f64; 5]; 5] = std::array::from_fn(|i| std::array::from_fn(|j| entries[i * 5 + j]));
            (0..5).for_each(|i| equations[i][i] += 20.0);
            let found = solve(equations, to).expect("the diagonal rules");
            for (row, wanted) in equations.iter().zip(to) {
                let given: f64 = row.iter().zip(found).map(|(a, x)| a * x).sum();
                prop_assert!((given - wanted).abs() < 1e-9);
            }
        }
    }

    #[test]
    fn a_nought_on_the_diagonal_is_passed_over_and_parallel_equations_have_no_answer() {
        assert_eq!(solve([[0.0, 1.0], [2.0, 0.0]], [3.0, 4.0]), Some([2.0, 3.0]));
        assert_eq!(solve([[1.0, 2.0], [2.0, 4.0]], [1.0, 2.0]), None);
    }
}
