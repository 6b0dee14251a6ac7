using System.CommandLine;
using EvenThimble.Core.Files;
using EvenThimble.Core.Text;

namespace EvenThimble.Cli;

/// <summary>Where results go: one file, or a folder for several. What is there already stays unless it is forced, and nothing that the same call has written is ever written over.</summary>
internal sealed class Outputs
{
    private readonly HashSet<string> _written = new(StringComparer.Ordinal);

    public Option<string> Out { get; } = new("--out", "-o") { Description = "The file to write; a folder where several files go in.", Required = true };

    public Option<bool> Force { get; } = new("--force") { Description = "Write over a file that is there already." };

    public void AddTo(Command command)
    {
        command.Add(Out);
        command.Add(Force);
    }

    /// <summary>Where the result of an input goes: <c>-o</c> itself, or below it the input's name with an ending.</summary>
    public string For(ParseResult parsed, string input, string ending) => IsFolder(parsed, parsed.GetValue(Out)!)
        ? Path.Combine(parsed.GetValue(Out)!, Path.GetFileNameWithoutExtension(input) + ending)
        : parsed.GetValue(Out)!;

    /// <summary>Whether <c>-o</c> names a folder.</summary>
    public static bool IsFolder(ParseResult parsed, string path) => parsed.GetResult("in") is { Tokens.Count: > 1 } || Path.EndsInDirectorySeparator(path) || Directory.Exists(path);

    /// <summary>Writes a file, wholly or not at all.</summary>
    /// <exception cref="EditRefusedException">There is one already.</exception>
    public void Write(ParseResult parsed, string path, Func<byte[]> make)
    {
        var whole = Path.GetFullPath(path);
        if (_written.Contains(whole)) throw new EditRefusedException($"{path} was written a moment ago for another file of the same name. Put the results into different folders.");
        if (File.Exists(whole) && !parsed.GetValue(Force)) throw new EditRefusedException($"{path} is there already, so nothing was written. Choose another name, or say --force.");
        var bytes = make();
        Directory.CreateDirectory(Path.GetDirectoryName(whole)!);
        AtomicFile.Write(whole, bytes);
        _written.Add(whole);
    }
}
