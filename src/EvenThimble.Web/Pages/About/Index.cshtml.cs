using System.Text.Json;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.Extensions.DependencyModel;

namespace EvenThimble.Web.Pages;

/// <summary>What the program is, and whose work it stands on.</summary>
public sealed class AboutModel(IWebHostEnvironment environment) : PageModel
{
    /// <summary>A package, its licence by short name, and the licence's text where it ships with the package.</summary>
    public sealed record Package(string Name, string Version, string Licence, string Text);

    // Licences of the server's libraries; which versions they are the build knows. Those of the browser are listed by the script that brings them.
    private static readonly Dictionary<string, string> LicencesOfServer = new(StringComparer.OrdinalIgnoreCase)
    {
        ["AngleSharp"] = "MIT",
        ["AngleSharp.Css"] = "MIT",
        ["Dapper"] = "Apache-2.0",
        ["dbup-core"] = "MIT",
        ["dbup-sqlite"] = "MIT",
        ["ExcelDataReader"] = "MIT",
        ["HarfBuzzSharp"] = "MIT",
        ["HarfBuzzSharp.NativeAssets.Linux"] = "MIT",
        ["Microsoft.Data.Sqlite"] = "MIT",
        ["NetTopologySuite"] = "BSD-3-Clause",
        ["Serilog"] = "Apache-2.0",
        ["Serilog.AspNetCore"] = "Apache-2.0",
        ["SkiaSharp"] = "MIT",
        ["SkiaSharp.NativeAssets.Linux.NoDependencies"] = "MIT",
        ["SQLitePCLRaw.core"] = "Apache-2.0",
        ["System.IO.Hashing"] = "MIT",
    };

    public IReadOnlyList<Package> Licences { get; private set; } = [];

    public void OnGet()
    {
        var brought = environment.WebRootFileProvider.GetFileInfo("lib/licences.json");
        using var stream = brought.CreateReadStream();
        Licences = [.. JsonSerializer.Deserialize<List<Package>>(stream, JsonSerializerOptions.Web)!, .. Server()];
    }

    private static IEnumerable<Package> Server()
    {
        yield return new("ASP.NET Core", Environment.Version.ToString(), "MIT", string.Empty);
        yield return new("SQLite", SQLitePCL.raw.sqlite3_libversion().utf8_to_string(), "public domain", string.Empty);
        foreach (var library in DependencyContext.Load(typeof(AboutModel).Assembly)!.RuntimeLibraries.OrderBy(l => l.Name, StringComparer.OrdinalIgnoreCase))
            if (LicencesOfServer.TryGetValue(library.Name, out var licence)) yield return new(library.Name, library.Version, licence, string.Empty);
    }
}
