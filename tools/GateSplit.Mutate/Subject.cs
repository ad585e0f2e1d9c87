using Microsoft.CodeAnalysis;
using Microsoft.CodeAnalysis.CSharp;

namespace GateSplit.Mutate;

/// <summary>The core as it was built, to be compiled again with one fault in it.</summary>
internal sealed class Subject
{
    private readonly CSharpCompilation _whole;

    private Subject(CSharpCompilation whole) => _whole = whole;

    /// <summary>Reads the sources of the core, those that its build made among them.</summary>
    /// <param name="root">The folder of the repository, built.</param>
    /// <param name="tests">The folder with the built tests, where what the core refers to lies.</param>
    public static Subject Read(string root, string tests)
    {
        var core = Path.Combine(root, "src/GateSplit.Core");
        var options = new CSharpParseOptions(LanguageVersion.Latest);
        var trees = Directory.EnumerateFiles(core, "*.cs", SearchOption.AllDirectories)
            .Where(p => !p.Contains("/bin/", StringComparison.Ordinal) && (!p.Contains("/obj/", StringComparison.Ordinal) || p.Contains("/obj/Release/", StringComparison.Ordinal)))
            .Select(p => CSharpSyntaxTree.ParseText(File.ReadAllText(p), options, Path.GetRelativePath(root, p)));
        var references = ((string)AppContext.GetData("TRUSTED_PLATFORM_ASSEMBLIES")!).Split(Path.PathSeparator)
            .Where(p => !Path.GetFileName(p).StartsWith("Microsoft.CodeAnalysis", StringComparison.Ordinal) && !Path.GetFileName(p).StartsWith("GateSplit", StringComparison.Ordinal))
            .Concat(new[] { "CsvHelper.dll", "System.IO.Hashing.dll" }.Select(n => Path.Combine(tests, n)).Where(File.Exists))
            .DistinctBy(Path.GetFileName)
            .Select(p => MetadataReference.CreateFromFile(p));
        return new Subject(CSharpCompilation.Create(
            "GateSplit.Core",
            trees,
            references,
            new CSharpCompilationOptions(OutputKind.DynamicallyLinkedLibrary, optimizationLevel: OptimizationLevel.Release, nullableContextOptions: NullableContextOptions.Annotations, allowUnsafe: true, deterministic: true)));
    }

    /// <summary>Every fault that could be planted in a folder.</summary>
    public List<Fault> Faults(string folder) =>
    [
        .. _whole.SyntaxTrees
            .Where(t => t.FilePath.StartsWith($"src/GateSplit.Core/{folder}/", StringComparison.Ordinal))
            .OrderBy(t => t.FilePath, StringComparer.Ordinal)
            .SelectMany(t => Mutate.Faults.In(t.FilePath, t.GetRoot())),
    ];

    /// <summary>Compiles the core with a fault, or with none.</summary>
    /// <returns>False if it does not compile.</returns>
    public bool Build(Fault? fault, string path)
    {
        var built = _whole;
        if (fault is not null)
        {
            var tree = fault.Old.SyntaxTree;
            var root = tree.GetRoot().ReplaceNode(fault.Old, fault.New.WithTriviaFrom(fault.Old));
            built = built.ReplaceSyntaxTree(tree, tree.WithRootAndOptions(root, tree.Options));
        }

        using var file = File.Create(path);
        var emitted = built.Emit(file);
        if (fault is null && !emitted.Success)
        {
            throw new InvalidOperationException(string.Join('\n', emitted.Diagnostics.Where(d => d.Severity == DiagnosticSeverity.Error).Take(10)));
        }

        return emitted.Success;
    }
}
