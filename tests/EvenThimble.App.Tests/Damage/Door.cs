using System.Reflection;
using EvenThimble.Web;
using EvenThimble.Web.Pages.Bench;
using Microsoft.AspNetCore.Builder;
using Microsoft.AspNetCore.Http;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.Infrastructure;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.AspNetCore.Mvc.RazorPages.Infrastructure;
using Microsoft.AspNetCore.Routing;
using Microsoft.Extensions.DependencyInjection;

namespace EvenThimble.App.Tests.Damage;

/// <summary>An address of the program that something can be asked of or sent to.</summary>
/// <param name="Method"><c>GET</c> or <c>POST</c>.</param>
/// <param name="Address">With its placeholders in braces, such as <c>/jobs/{id}/do/size</c>, and its handler.</param>
/// <param name="Fields">What it reads, by name: in the address for one that is asked, in the form for one that is sent to.</param>
public sealed record Door(string Method, string Address, IReadOnlyList<(string Name, Type Type)> Fields)
{
    /// <summary>Every door of the program, as it declares them itself, so that none that is added is left out: handlers of pages, commands and parts of the bench, and files.</summary>
    public static async Task<IReadOnlyList<Door>> AllAsync(string data)
    {
        await using var app = EvenThimbleHost.Build(["--port", "0", "--data", data]);
        await app.StartAsync();
        var loader = app.Services.GetRequiredService<PageLoader>();
        var doors = new List<Door>();
        foreach (var page in app.Services.GetRequiredService<IActionDescriptorCollectionProvider>().ActionDescriptors.Items.OfType<PageActionDescriptor>())
        {
            var loaded = await loader.LoadAsync(page, EndpointMetadataCollection.Empty);
            var address = "/" + Bare(page.AttributeRouteInfo!.Template!);
            var bound = loaded.BoundProperties.OfType<PageBoundPropertyDescriptor>().ToList();
            foreach (var handler in loaded.HandlerMethods)
            {
                var gets = handler.HttpMethod.Equals("GET", StringComparison.OrdinalIgnoreCase);
                var fields = handler.Parameters.SelectMany(p => Flat(p.Name!, p.ParameterInfo.ParameterType))
                    .Concat(bound.Where(b => !gets || b.Property.GetCustomAttribute<BindPropertyAttribute>()?.SupportsGet == true).SelectMany(b => Flat(b.BindingInfo?.BinderModelName ?? b.Name, b.ParameterType)));
                doors.Add(new(handler.HttpMethod.ToUpperInvariant(), handler.Name is { } named ? $"{address}?handler={named}" : address, [.. fields]));
            }
        }

        // The bench: each command and each part is a door of its own.
        (string, Type)[] shown = [("parts", typeof(string)), ("task", typeof(string)), ("version", typeof(long))];
        foreach (var command in BenchRegistry.Commands.Values)
        {
            var form = command.GetType().GetGenericArguments()[0];
            IReadOnlyList<(string, Type)> fields = [.. form.GetConstructors().OrderByDescending(c => c.GetParameters().Length).First().GetParameters().Select(p => (p.Name!, p.ParameterType)), .. shown];
            doors.Add(new("POST", $"/jobs/{{id}}/do/{command.Name}", fields));
            if (command.Previews) doors.Add(new("POST", $"/jobs/{{id}}/try/{command.Name}", fields));
        }

        (string, Type)[] asked = [.. shown, ("text", typeof(string)), ("design", typeof(long[])), ("staying", typeof(int[])), ("pair", typeof(string[])), ("part", typeof(int))];
        (string, Type)[] sent = [.. shown, ("rack", typeof(long)), ("piece", typeof(int)), ("left", typeof(string)), ("right", typeof(string)), ("token", typeof(string)), ("width", typeof(string)), ("file", typeof(IFormFile))];
        doors.AddRange(BenchRegistry.Tasks.SelectMany(t => t.Parts.Keys).Concat(["card", "state", "history"]).Select(part => new Door("GET", $"/jobs/{{id}}/part/{part}", asked)));
        doors.AddRange(BenchRegistry.Tasks.SelectMany(t => t.Sent.Keys).Select(part => new Door("POST", $"/jobs/{{id}}/part/{part}", sent)));

        foreach (var file in ((IEndpointRouteBuilder)app).DataSources.SelectMany(d => d.Endpoints).OfType<RouteEndpoint>())
            if (file.Metadata.GetMetadata<MethodInfo>() is { } method)
                doors.Add(new("GET", "/" + Bare(file.RoutePattern.RawText!.TrimStart('/')), [.. method.GetParameters().Where(p => p.ParameterType == typeof(string) || p.ParameterType.IsValueType).Select(p => (p.Name!, p.ParameterType))]));
        await app.StopAsync();
        return doors;
    }

    private static string Bare(string template) => System.Text.RegularExpressions.Regex.Replace(template, @"\{(\w+):\w+\}", "{$1}");

    /// <summary>A parameter by itself, or the members of one that is a form.</summary>
    private static IEnumerable<(string Name, Type Type)> Flat(string name, Type type)
    {
        var element = Nullable.GetUnderlyingType(type) ?? (type.IsArray ? type.GetElementType()! : type);
        if (element.IsPrimitive || element.IsEnum || element == typeof(string) || element.Namespace?.StartsWith("Microsoft", StringComparison.Ordinal) == true) return [(name, type)];
        return element.GetProperties().Where(p => p.CanWrite).Select(p => (p.Name, p.PropertyType));
    }
}
