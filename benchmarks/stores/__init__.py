"""The stores of Fenwick Lock: nameable things of several made-up makers, with what is true of each."""
