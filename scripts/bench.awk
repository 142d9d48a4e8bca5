# Prints Go benchmarks, and each one beside its floor of the same run.
/^Benchmark/ {
	print
	name = $1
	sub(/-[0-9]+$/, "", name)
	ns[name] = $3
}
END {
	print "\nAgainst the floor of the same run:"
	for (name in ns)
		if ((name "Floor") in ns)
			printf "%-40s %8.0f ns, floor %8.0f ns, ratio %.3g\n", name, ns[name], ns[name "Floor"], ns[name] / ns[name "Floor"]
}
